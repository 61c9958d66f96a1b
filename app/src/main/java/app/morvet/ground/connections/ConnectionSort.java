package app.morvet.ground.connections;

/** A sort of connections: what can be tried of one, and what is read from an answer. A bean for each. */
public interface ConnectionSort {
    /** The name under which connections of this sort are kept; never changes. */
    String sort();

    /** A request that changes nothing there, by which people see whether a connection works. */
    Ask trial(Connection connection);

    /**
     * What Morvet reads from an answer, in words for people.
     *
     * @throws IllegalArgumentException where it cannot be read; says why
     */
    String reads(Connection connection, String answer);
}
