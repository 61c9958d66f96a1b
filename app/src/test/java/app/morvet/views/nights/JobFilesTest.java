package app.morvet.views.nights;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.ground.estate.Estate;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Jobs as files of three kinds: each line by itself, then all of them together. */
class JobFilesTest extends MorvetTest {
    @Autowired
    private JobFile file;

    private JobFile.Read csv(String text) {
        setUpOnce();
        return file.read(JobFile.Kind.CSV, text);
    }

    private static String told(JobFile.Read read) {
        return read.faults().stream()
                .map(one -> one.line() + ": " + one.words())
                .collect(Collectors.joining("\n"));
    }

    @Test
    void aTableOfJobsSaysWhatEachWouldDo() {
        var read = csv("key,name,schedules,deadline\nhorn,Sound the horn,cron 10 4 * * *,06:30\n");
        assertThat(told(read)).isEmpty();
        assertThat(read.changes()).singleElement().satisfies(change -> {
            assertThat(change.key()).isEqualTo("horn");
            assertThat(change.change()).isEqualTo("new");
            assertThat(change.words()).contains("every day at 04:10", "06:30");
        });
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    horn/1,cron 10 4 * * *,06:30   | Key: it has / at place 5; a key is one line of at most 200 characters
                    horn,at dawn,06:30             | is no schedule; write cron 30 2 * * *
                    horn,cron 99 4 * * *,06:30     | The minute "99" is wrong
                    horn,cron 10 4 * * *,later     | later
                    horn,working day 40 at 18:00,  | working day
                    horn,every 0 min from 06:00 to 22:00, | every
                    """)
    void whatIsWrongIsToldWithItsLine(String row, String words) {
        var read = csv("key,schedules,deadline\nbell,cron 5 4 * * *,\n" + row + "\n");
        assertThat(read.faults()).as(told(read)).hasSize(1);
        assertThat(read.faults().getFirst().line()).isEqualTo(3);
        assertThat(read.faults().getFirst().words()).containsIgnoringCase(words);
    }

    @Test
    void columnsThatAreNotKnownAndOnesThatAreMissingAreNamed() {
        assertThat(told(csv("key,colour\nhorn,red\n"))).startsWith("1: The column colour is not known; known are ");
        assertThat(told(csv("name\nhorn\n"))).startsWith("1: There is no column key");
        assertThat(told(csv("key,schedules\n\"horn,unclosed\n"))).contains("This is no CSV");
    }

    @Test
    void aLineThatGoesOnOverSeveralIsToldWhereItBegins() {
        var read = csv("key,name,schedules\nbell,\"Ring\nthe\nbell\",cron 5 4 * * *\nhorn,Horn,at dawn\n");
        assertThat(read.faults()).as(told(read)).singleElement().satisfies(fault -> assertThat(fault.line())
                .isEqualTo(5));
    }

    @Test
    void twoOfOneKeyAndAKeyOfSomethingElseAreRefused() {
        var subject = subject();
        assertThat(told(csv("key\nhorn-twice\nhorn-twice\n"))).contains("\"horn-twice\" stands twice in the file");
        assertThat(told(csv("key\n" + subject.key() + "\n")))
                .contains("\"" + subject.key() + "\" is a " + Estate.INTERFACE + " and no job");
        assertThat(told(csv("key,application\nhorn,nowhere\n"))).contains("There is no application \"nowhere\"");
    }

    @Test
    void jobsThatWouldWaitForEachOtherAreRefusedTogether() {
        assertThat(told(csv("key,waits\nround-a,round-b\nround-b,round-a\n")))
                .startsWith("1: ")
                .contains("round-a")
                .contains("round-b");
        assertThat(told(csv("key,waits\nwaits-alone,nobody-knows-it\n"))).contains("nobody-knows-it");
    }

    @Test
    void aCrontabNamesItsLinesAndItsCommandsBecomeJobs() {
        setUpOnce();
        var read = file.read(
                JobFile.Kind.CRONTAB,
                """
                # nightly
                MAILTO=nobody
                10 4 * * * /opt/sundrava/sound-the-horn --loud

                @daily ring-the-bell
                61 4 * * * never
                """);
        assertThat(read.changes()).extracting(JobFile.Change::name).contains("Sound the horn", "Ring the bell");
        assertThat(read.faults()).singleElement().satisfies(fault -> {
            assertThat(fault.line()).isEqualTo(6);
            assertThat(fault.words()).contains("The minute \"61\" is wrong");
        });
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
                    {"jobs": [{"key": "a"}]}   | Each job has a key and a spec
                    {"jobs": "all"}            | This is not read
                    {}                         | There is no list "jobs" in it
                    {"jobs": [                 | This is not read
                    not json                   | This is not read
                    """)
    void whatIsNoListOfJobsSaysSo(String text, String words) {
        setUpOnce();
        var read = file.read(JobFile.Kind.JSON, text);
        assertThat(told(read)).containsIgnoringCase(words).doesNotContain("app.morvet", "Exception");
        assertThat(read.agreements()).isEmpty();
    }
}
