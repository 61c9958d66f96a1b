package app.morvet.core.vendors;

import static app.morvet.core.vendors.VendorState.IN_PART;
import static app.morvet.core.vendors.VendorState.NOT;
import static app.morvet.core.vendors.VendorState.SERVES;
import static app.morvet.core.vendors.VendorState.UNKNOWN;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Feeds of vendors, of three shapes, well and ill, read as their settings say and never guessed. */
class VendorFeedTest {
    private static final Instant NOW = Instant.parse("2027-03-18T04:40:00Z");

    private static final Map<String, String> PARTS = Map.ofEntries(
            Map.entry("shape", "json"),
            Map.entry("parts", "$.functions"),
            Map.entry("partName", "$.label"),
            Map.entry("partState", "$.mood"),
            Map.entry("time", "$.asOf"),
            Map.entry("words", "fine = serves\nlimping = serves in part\ndown = does not serve"),
            Map.entry("bulletins", "$.notes"),
            Map.entry("bulletin-id", "$.ref"),
            Map.entry("bulletin-title", "$.head"),
            Map.entry("bulletin-text", "$.body"),
            Map.entry("bulletin-kind", "$.sort"),
            Map.entry("bulletin-in", "$.phase"),
            Map.entry("bulletin-from", "$.begin"),
            Map.entry("bulletin-to", "$.end"),
            Map.entry("bulletin-parts", "$.functions"),
            Map.entry("planned", "works"),
            Map.entry("over", "closed, called off"));

    private static FeedSettings settings(Map<String, String> other) {
        var all = new HashMap<>(PARTS);
        all.putAll(other);
        return FeedSettings.of(all);
    }

    private static Reading json(String body) {
        return settings(Map.of()).read(body.replace('\'', '"'), NOW);
    }

    @Test
    void theStateIsTheWorstOfItsPartsAndBulletinsAreTroubleOrPlannedWork() {
        var read = json(
                """
                {'asOf': '2027-03-18T04:39:30Z',
                 'functions': [{'label': 'lookup', 'mood': 'fine'}, {'label': 'import', 'mood': 'Limping'}],
                 'notes': [
                  {'ref': 'n1', 'head': 'Imports wait', 'body': '<p>We look into it.</p><script>alert(1)</script>', 'sort': 'trouble', 'phase': 'open',
                   'begin': '2027-03-18T03:10:00+01:00', 'functions': ['import']},
                  {'ref': 'n2', 'head': 'New disks', 'sort': 'works', 'phase': 'planned', 'begin': 1805000400, 'end': '1805004000000'},
                  {'ref': 'n3', 'head': 'Old', 'sort': 'trouble', 'phase': 'closed'}]}""");
        assertThat(read.faults()).isEmpty();
        assertThat(read.states()).isEqualTo(Map.of("", IN_PART, "lookup", SERVES, "import", IN_PART));
        assertThat(read.bulletins()).extracting(Bulletin::id).containsExactly("n1", "n2", "n3");
        var trouble = read.bulletins().getFirst();
        assertThat(trouble.from()).isEqualTo(Instant.parse("2027-03-18T02:10:00Z"));
        assertThat(trouble.text()).isEqualTo("We look into it.");
        assertThat(trouble.parts()).containsExactly("import");
        var planned = read.bulletins().get(1);
        assertThat(planned.planned()).isTrue();
        assertThat(planned.to()).isEqualTo(planned.from().plusSeconds(3600));
        assertThat(read.bulletins().get(2).over()).isTrue();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "{'asOf': '2027-03-18T04:40:00Z', 'functions': [{'label': 'a', 'mood': 'sulking'}], 'notes': []} | NOT_KNOWN | \"sulking\" is no word that is known; say what it means.",
                "{'asOf': '2027-03-18T04:40:00Z', 'functions': [{'label': 'a'}], 'notes': []} | NOT_KNOWN | There is no word at $.mood any more.",
                "{'asOf': '2027-03-18T04:40:00Z', 'parts': [], 'notes': []} | NOT_KNOWN | The parts are not at $.functions any more.",
                "{'asOf': '2027-03-18T04:40:00Z', 'functions': [{'label': 'a', 'mood': 'fine'}]} | SERVES | The bulletins are not at $.notes any more.",
                "{'functions': [{'label': 'a', 'mood': 'fine'}], 'notes': []} | SERVES | There is no time at $.asOf any more.",
                "{'asOf': '2027-03-18T01:00:00Z', 'functions': [{'label': 'a', 'mood': 'fine'}], 'notes': []} | SERVES | It says that it was made 2027-03-18T01:00:00Z, which is more than 15 min from now.",
                "{'asOf': '2027-03-18T04:40:00Z', 'functions': [{'label': 'a', 'mood': 'fine'}], 'notes': [{'head': 'x'}]} | SERVES | A bulletin has no id at $.ref.",
                "<html><body>503</body></html> | NONE | The answer is no JSON.",
                "`` | NONE | The answer is no JSON."
            })
    void whatIsNotUnderstoodIsToldAndNotGuessed(String body, String state, String fault) {
        var read = json(body);
        assertThat(read.faults()).containsExactly(fault);
        var whole = read.states().get(Reading.WHOLE);
        assertThat(whole == null ? "NONE" : whole == UNKNOWN ? "NOT_KNOWN" : whole.name())
                .isEqualTo(state);
    }

    @Test
    void aWordOfTheWholeCountsBeforeItsParts() {
        var read = settings(Map.of("state", "$.overall"))
                .read(
                        "{\"asOf\": \"2027-03-18T04:40:00Z\", \"overall\": \"down\", \"functions\": [{\"label\": \"a\", \"mood\": \"fine\"}], \"notes\": []}",
                        NOW);
        assertThat(read.states()).isEqualTo(Map.of("", NOT, "a", SERVES));
    }

    @Test
    void hostileAnswersAreReadAsFarAsTheyGoOrNotAtAll() {
        assertThat(json("[".repeat(200_000)).states()).isEmpty();
        assertThat(json("{'a':".repeat(50_000) + "1" + "}".repeat(50_000)).faults())
                .isNotEmpty();
        var many = new StringBuilder("{\"asOf\": \"2027-03-18T04:40:00Z\", \"functions\": [], \"notes\": [");
        for (int i = 0; i < 5000; i++)
            many.append(i == 0 ? "" : ",").append("{\"ref\": ").append(i).append(", \"head\": \"h\"}");
        var read = settings(Map.of()).read(many + "]}", NOW);
        assertThat(read.bulletins()).hasSize(Reading.MOST_BULLETINS);
        assertThat(read.faults()).contains("It has more than 200 bulletins; the rest is left out.");
        var long1 = json(
                "{'asOf': '2027-03-18T04:40:00Z', 'functions': [], 'notes': [{'ref': 'x', 'head': '%s', 'body': '%s'}]}"
                        .formatted("h".repeat(5000), "b".repeat(100_000)));
        assertThat(long1.bulletins().getFirst().title()).hasSize(300);
        assertThat(long1.bulletins().getFirst().text()).hasSize(20_000);
    }

    private static Reading atom(String entries) {
        return FeedSettings.of(Map.of(
                        "shape",
                        "xml",
                        "words",
                        "outage = does not serve\nslow = serves in part",
                        "planned",
                        "works",
                        "over",
                        "solved"))
                .read(
                        "<?xml version='1.0'?><feed xmlns='http://www.w3.org/2005/Atom'><title>s</title><id>f</id>"
                                + entries + "</feed>",
                        NOW);
    }

    @Test
    void ofAtomTheOpenTroubleSaysTheStateAndPlannedWorkHasItsTimesInItsText() {
        var slow =
                "<entry><id>1</id><title>Slow</title><updated>2027-03-18T03:00:00Z</updated><category term='Slow'/></entry>";
        var solved = "<entry><id>2</id><title>Out</title><category term='outage'/><category term='solved'/></entry>";
        var works =
                """
                <entry><id>3</id><title>Move</title><category term='works'/><content type='html'>&lt;p&gt;From 2027-03-20T01:00Z to
                2027-03-20 03:30:00+01:00.&lt;/p&gt;</content></entry>""";
        var read = atom(slow + solved + works);
        assertThat(read.faults()).isEmpty();
        assertThat(read.states()).isEqualTo(Map.of("", IN_PART));
        assertThat(read.bulletins().get(0).from()).isEqualTo(Instant.parse("2027-03-18T03:00:00Z"));
        assertThat(read.bulletins().get(1).over()).isTrue();
        var planned = read.bulletins().get(2);
        assertThat(planned.from()).isEqualTo(Instant.parse("2027-03-20T01:00:00Z"));
        assertThat(planned.to()).isEqualTo(Instant.parse("2027-03-20T02:30:00Z"));
        assertThat(atom(solved + works).states()).isEqualTo(Map.of("", SERVES));
        var unknown = atom("<entry><id>4</id><title>Odd</title><category term='odd'/></entry>");
        assertThat(unknown.states()).isEqualTo(Map.of("", UNKNOWN));
        assertThat(unknown.faults())
                .containsExactly(
                        "\"Odd\" is trouble, and none of its categories (odd) is known; say what one of them means.");
    }

    @Test
    void rssIsReadAsWell() {
        var read = FeedSettings.of(Map.of("shape", "xml", "words", "outage = does not serve"))
                .read(
                        """
                        <rss version="2.0"><channel><title>s</title><item><guid>g1</guid><title>Out</title><description>gone</description>
                        <pubDate>Thu, 18 Mar 2027 03:00:00 GMT</pubDate><category>outage</category></item></channel></rss>""",
                        NOW);
        assertThat(read.states()).isEqualTo(Map.of("", NOT));
        assertThat(read.bulletins().getFirst().updated()).isEqualTo(Instant.parse("2027-03-18T03:00:00Z"));
    }

    @Test
    void hostileXmlIsRefusedOrHarmless() {
        var bomb =
                "<!DOCTYPE f [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;&a;&a;'>]><feed><entry><id>1</id><title>&b;</title></entry></feed>";
        var settings = FeedSettings.of(Map.of("shape", "xml", "words", "outage = does not serve"));
        assertThat(settings.read(bomb, NOW).bulletins()).isEmpty();
        var outside =
                "<!DOCTYPE f [<!ENTITY x SYSTEM 'file:///etc/passwd'>]><feed><entry><id>1</id><title>&x;</title></entry></feed>";
        assertThat(settings.read(outside, NOW).faults()).hasSize(1);
        // Whichever notices it first, the parser of this JDK or we.
        assertThat(settings.read("<feed>" + "<a>".repeat(200_000), NOW))
                .satisfies(read -> assertThat(read.faults()).hasSize(1))
                .satisfies(read -> assertThat(read.states()).isEmpty());
        assertThat(settings.read("<feed><entry><id>1</id><title>" + "<b>".repeat(200) + "</title></entry></feed>", NOW)
                        .states())
                .isEmpty();
        assertThat(settings.read("{}", NOW).faults()).containsExactly("The answer is no Atom and no RSS.");
        assertThat(settings.read("<html><body><entry/></body></html>", NOW).faults())
                .containsExactly("The answer is no Atom and no RSS.");
        // An entry that holds its own feed again is one entry.
        var cyclic =
                "<feed><entry><id>1</id><title>t</title><category term='outage'/><content><feed><entry><id>1</id></entry></feed></content></entry></feed>";
        assertThat(settings.read(cyclic, NOW).bulletins()).hasSize(1);
    }

    @Test
    void aCalendarTellsOfPlannedWorkAlone() {
        var read = FeedSettings.of(Map.of("shape", "calendar"))
                .read(
                        """
                        BEGIN:VCALENDAR
                        VERSION:2.0
                        PRODID:-//Markentide//works//EN
                        BEGIN:VEVENT
                        UID:w-1
                        DTSTAMP:20270301T000000Z
                        DTSTART;TZID=Europe/Helsinki:20270320T010000
                        DTEND;TZID=Europe/Helsinki:20270320T030000
                        SUMMARY:New certificates
                        DESCRIPTION:For a minute nothing is taken.
                        END:VEVENT
                        BEGIN:VEVENT
                        UID:w-2
                        DTSTAMP:20270301T000000Z
                        DTSTART:20270321T010000Z
                        DURATION:PT2H
                        STATUS:CANCELLED
                        SUMMARY:Called off
                        END:VEVENT
                        END:VCALENDAR
                        """,
                        NOW);
        assertThat(read.faults()).isEmpty();
        assertThat(read.states()).isEmpty();
        assertThat(read.bulletins()).extracting(Bulletin::over).containsExactly(false, true);
        assertThat(read.bulletins().getFirst().from()).isEqualTo(Instant.parse("2027-03-19T23:00:00Z"));
        assertThat(read.bulletins().get(1).to()).isEqualTo(Instant.parse("2027-03-21T03:00:00Z"));
        assertThat(FeedSettings.of(Map.of("shape", "calendar"))
                        .read("<html>", NOW)
                        .faults())
                .containsExactly("The answer is no iCalendar.");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "shape | yaml | a feed is JSON, Atom or RSS, or iCalendar",
                "words | limping is bad | is no line such as degraded = serves in part",
                "words | limping = so so | a word means serves, serves in part",
                "partState | '' | of the parts say where in each its name and its state stand",
                "parts | $.[ | is no JSONPath such as $.status",
                "bulletin-id | '' | of the bulletins say where in each its id and its title stand"
            })
    void settingsThatCannotBeSayWhatIsWrong(String name, String value, String says) {
        assertThatThrownBy(() -> settings(Map.of(name, value)))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining(says);
    }

    @ParameterizedTest
    @CsvSource({
        "'', SERVES",
        "SERVES UNKNOWN, UNKNOWN",
        "IN_PART UNKNOWN SERVES, IN_PART",
        "NOT IN_PART, NOT",
        "UNKNOWN, UNKNOWN"
    })
    void theWorstIsTroubleThatIsKnownThenWhatIsNotKnown(String some, VendorState worst) {
        var all = some.isEmpty()
                ? List.<VendorState>of()
                : java.util.Arrays.stream(some.split(" "))
                        .map(VendorState::valueOf)
                        .toList();
        assertThat(VendorState.worst(all)).isEqualTo(worst);
    }
}
