package app.morvet.outpost;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import tools.jackson.databind.node.ObjectNode;

/** Orders are carried out once, as the file of the outpost allows, and their ends are told. */
class OrdersTest extends BesideMorvet {
    @Test
    void anOrderIsCarriedOutOnceAndOnlyAsTheFileAllows() throws Exception {
        order(1, "say", "analyst", 100, "\"what\":\"a\"");
        order(2, "say", "analyst", 100, "\"what\":\"a; rm -rf /\"");
        order(3, "reboot", "admin", 100, "");
        order(4, "admins only", "lead", 100, "");
        order(5, "fail", "analyst", 100, "");
        order(6, "say", "analyst", 0, "\"what\":\"a\"");
        until(() -> outcomes().stream().anyMatch(one -> one.startsWith("5 FAILED"))
                && outcomes().contains("1 DONE a"));
        assertThat(outcomes())
                .contains(
                        "1 FETCHED",
                        "2 REFUSED what=a; rm -rf / is not one of a, b",
                        "3 REFUSED the file of the outpost quay-03 names no action \"reboot\"",
                        "4 REFUSED who asks for \"admins only\" must be admin at least",
                        "5 FAILED It ended with 1.")
                .noneMatch(one -> one.startsWith("6 "));
        // Given again, since an answer may be lost, it is not done again; nor after the program began anew.
        outpost.word();
        outpost = begun();
        outpost.word();
        Thread.sleep(200);
        outpost.word();
        assertThat(outcomes().stream().filter(one -> one.startsWith("1 DONE"))).hasSize(1);
        orders.clear();
        order(7, "say", "analyst", 100, "\"what\":\"b\"");
        order(8, "say", "analyst", 100, "\"what\":\"b\"");
        order(9, "say", "analyst", 100, "\"what\":\"b\"");
        until(() -> outcomes().stream()
                        .filter(one -> one.matches("[789] (DONE|REFUSED).*"))
                        .count()
                == 3);
        assertThat(outcomes()).contains("9 REFUSED \"say\" is done 2 times in 1 h at most");
    }

    @Test
    void whatSomebodyTriesIsToldAtOnceAndTriedOnce() throws Exception {
        tries.add(
                (ObjectNode) Wire.JSON.readTree("{\"id\":1,\"kind\":\"command\",\"fields\":{\"command\":\"hello\"}}"));
        tries.add((ObjectNode) Wire.JSON.readTree("{\"id\":2,\"kind\":\"command\",\"fields\":{\"command\":\"rm\"}}"));
        tries.add((ObjectNode) Wire.JSON.readTree("{\"id\":3,\"kind\":\"of tomorrow\",\"fields\":{}}"));
        until(() -> words.stream()
                        .mapToInt(one -> one.path("told").path("tries").size())
                        .sum()
                == 3);
        outpost.word();
        Thread.sleep(200);
        outpost.word();
        var told = words.stream()
                .map(one -> one.path("told").path("tries"))
                .toList()
                .toString();
        assertThat(told)
                .contains("\"state\":\"passed\"", "names no command \\\"rm\\\"", "is no kind of check")
                .containsOnlyOnce("\"id\":1,");
        assertThat(taken).as("nothing of it is kept").isEmpty();
    }

    @Test
    void oneWhoseEndIsNotKnownIsToldAndNotTriedAgain() throws Exception {
        order(1, "wait", "analyst", 100, "");
        until(() -> outcomes().contains("1 FETCHED"));
        // Killed while it was carried out.
        outpost = begun();
        until(() -> outcomes().stream()
                .anyMatch(one -> one.startsWith("1 UNKNOWN The outpost ended while it was carried out")));
        outpost = begun();
        outpost.word();
        outpost.word();
        assertThat(outcomes().stream().filter(one -> one.startsWith("1 UNKNOWN")))
                .hasSize(1);
    }
}
