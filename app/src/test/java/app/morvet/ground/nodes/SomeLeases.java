package app.morvet.ground.nodes;

import org.springframework.jdbc.core.simple.JdbcClient;

/** Leases of a node that believes it is one of several; it holds nothing. */
public final class SomeLeases {
    private SomeLeases() {}

    public static Leases among(int nodes, JdbcClient jdbc) {
        return new Leases(jdbc, "one-of-several") {
            @Override
            public int nodes() {
                return nodes;
            }
        };
    }
}
