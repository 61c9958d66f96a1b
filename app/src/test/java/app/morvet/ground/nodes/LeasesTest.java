package app.morvet.ground.nodes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.FreshDatabase;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.JdbcTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** Several nodes on one database, each part of whose work is done by one of them at a time. */
class LeasesTest {
    private static DataSource source;
    private static JdbcClient jdbc;
    private static TransactionTemplate transaction;

    private final List<Leases> nodes = new ArrayList<>();
    private final List<Leases.Share> shares = new ArrayList<>();

    @BeforeAll
    static void database() throws SQLException {
        source = FreshDatabase.make();
        jdbc = JdbcClient.create(source);
        transaction = new TransactionTemplate(new JdbcTransactionManager(source));
    }

    @BeforeEach
    void empty() {
        jdbc.sql("delete from lease").update();
        jdbc.sql("delete from live_node").update();
    }

    @AfterEach
    void end() {
        nodes.forEach(Leases::stop);
    }

    private Leases.Share joins(int parts) {
        var node = new Leases(jdbc, "node " + nodes.size());
        var share = node.share("work", parts);
        node.start();
        nodes.add(node);
        shares.add(share);
        return share;
    }

    /** As the keepers and workers of all nodes do within some seconds. */
    private void aWhilePasses() {
        for (int i = 0; i < 2; i++) {
            nodes.stream().filter(Leases::isRunning).forEach(Leases::renew);
            for (int node = 0; node < nodes.size(); node++)
                if (nodes.get(node).isRunning()) shares.get(node).dealAgain();
        }
    }

    /** Stands still: renews nothing, and what it holds runs out. */
    private void standsStill(int node) {
        var name = "node " + node;
        jdbc.sql("update lease set until = now() - interval '1 s' where holder = :name")
                .param("name", name)
                .update();
        jdbc.sql("update live_node set until = now() - interval '1 s' where id = :name")
                .param("name", name)
                .update();
    }

    private static Set<Integer> partsOf(Leases.Share share, int parts) {
        var held = share.held();
        return IntStream.range(0, parts).filter(held::has).boxed().collect(Collectors.toSet());
    }

    @Test
    void oneNodeHoldsAll() {
        assertThat(partsOf(joins(60), 60)).hasSize(60);
    }

    @Test
    void nodesHoldLikeManyPartsAndEachIsHeldOnce() {
        for (int i = 0; i < 3; i++) joins(60);
        aWhilePasses();
        var all = shares.stream().map(one -> partsOf(one, 60)).toList();
        assertThat(all).allSatisfy(some -> assertThat(some).hasSize(20));
        assertThat(all.stream().flatMap(Set::stream)).hasSize(60).doesNotHaveDuplicates();
    }

    @Test
    void whatOneNodeAloneCanDoIsDoneByTheFirst() {
        var first = joins(1);
        var other = joins(1);
        aWhilePasses();
        assertThat(partsOf(first, 1)).hasSize(1);
        assertThat(other.held().none()).isTrue();
    }

    @Test
    void whoLeavesGivesAllOfItToTheOthersAtOnce() {
        for (int i = 0; i < 3; i++) joins(60);
        aWhilePasses();
        nodes.get(1).stop();
        aWhilePasses();
        assertThat(Stream.of(shares.get(0), shares.get(2)).map(one -> partsOf(one, 60)))
                .allSatisfy(some -> assertThat(some).hasSize(30));
    }

    @Test
    void whoWorksIsWokenWhileItHoldsMoreOrLessThanIsFair() {
        var woken = new AtomicInteger();
        var first = joins(60);
        aWhilePasses();
        first.toBeDealt(woken::incrementAndGet);
        nodes.getFirst().renew();
        assertThat(woken).as("it has all, and is alone").hasValue(0);
        joins(60);
        nodes.getFirst().renew();
        assertThat(woken).as("another has come").hasValue(1);
        aWhilePasses();
        woken.set(0);
        nodes.getFirst().renew();
        assertThat(woken).as("each has its half").hasValue(0);
        standsStill(1);
        nodes.getFirst().renew();
        assertThat(woken).as("the other lives no more").hasValue(1);
    }

    /** It did not die: it comes to itself, and what it was about to write is not written. */
    @Test
    void whoStoodStillWritesNothingUnderALeaseThatAnotherHasTaken() {
        var slow = joins(6);
        var before = slow.held();
        assertThatCode(() -> transaction.executeWithoutResult(status -> before.sure()))
                .doesNotThrowAnyException();
        standsStill(0);
        var other = joins(6);
        assertThat(partsOf(other, 6)).hasSize(6);
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> before.sure()))
                .isInstanceOf(Leases.Lost.class)
                .hasMessageContaining("work");
        assertThat(slow.held().none()).isTrue();
    }

    /** With the same parts again it is another hold: what was known under the first may be old. */
    @Test
    void aPartThatWasElsewhereMeanwhileIsHeldAnew() {
        var one = joins(1);
        var before = one.held();
        standsStill(0);
        var other = joins(1);
        assertThat(partsOf(other, 1)).hasSize(1);
        nodes.get(1).stop();
        nodes.get(0).renew();
        one.dealAgain();
        assertThat(one.held().has(0)).isTrue();
        assertThat(one.held()).isNotEqualTo(before);
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> before.sure()))
                .isInstanceOf(Leases.Lost.class);
    }

    /** Between making sure and the commit nobody takes it, though the lease has run out meanwhile. */
    @Test
    void aPartIsNotTakenWhileItsHolderWrites() {
        var slow = joins(1);
        var held = slow.held();
        transaction.executeWithoutResult(status -> {
            held.sure();
            var elsewhere = Thread.ofVirtual().start(() -> {
                standsStill(0);
                joins(1);
                assertThat(shares.get(1).held().none()).isTrue();
            });
            join(elsewhere);
            assertThat(shares).hasSize(2);
            assertThat(held.has(0)).isTrue();
        });
        shares.get(1).dealAgain();
        assertThat(partsOf(shares.get(1), 1)).hasSize(1);
    }

    private static void join(Thread thread) {
        try {
            thread.join();
        } catch (InterruptedException stop) {
            throw new IllegalStateException(stop);
        }
    }

    @Test
    void whatIsDoneWhileNoNodeWorksNeedsNoLease() {
        var all = new Leases(jdbc, "past").share("work", 60).all();
        assertThat(all.has(59)).isTrue();
        assertThat(all.none()).isFalse();
        all.sure();
    }

    @Test
    void neighboursFallIntoDifferentPartsAndAllPartsAreUsed() {
        var held = joins(60).held();
        var counted = new int[60];
        for (long key = 1; key <= 6000; key++) counted[held.partOf(key)]++;
        assertThat(counted).hasSize(60).satisfies(some -> {
            for (int one : some) assertThat(one).isBetween(80, 120);
        });
    }
}
