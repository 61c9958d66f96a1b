package app.morvet.views.upkeep;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.ground.estate.Estate;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** The estate as a table: components and applications, line by line. */
class EstateFileTest extends MorvetTest {
    @Autowired
    private EstateFile file;

    private List<EstateFile.Fault> faults(String text) {
        setUpOnce();
        return file.read(text).faults();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
                    key,kind          | quay-csv,castle       | There is no kind "castle"; kinds are
                    key,application   | quay-csv,nowhere      | There is no application "nowhere".
                    key,tier,team     | fares,9,nobody        | A tier is 1, 2, 3 or 4, was "9".
                    key,tier,team     | fares,1,nobody        | team
                    key,tier          | fares,1               | A new application needs a tier and a team.
                    key,tier,team,environment | fares,1,%TEAM,moon | The environment is production, rehearsal or development, was "moon".
                    """)
    void whatIsWrongIsToldWithItsLine(String head, String row, String words) {
        var team = estateTeam();
        var faults = faults(head + "\n" + row.replace("%TEAM", team) + "\n");
        assertThat(faults).as(faults.toString()).singleElement().satisfies(fault -> {
            assertThat(fault.line()).isEqualTo(2);
            assertThat(fault.words()).contains(words);
        });
    }

    private String estateTeam() {
        return "team-" + subject().key();
    }

    @Test
    void aKeyIsThereOnceAndIsNotTooLong() {
        assertThat(faults("key,kind\nquay-csv,host\nquay-csv,host\n"))
                .containsExactly(new EstateFile.Fault(3, "The key \"quay-csv\" stands twice in this file."));
        assertThat(faults("key,kind\n" + "x".repeat(201) + ",host\n"))
                .containsExactly(new EstateFile.Fault(2, "A key has at most 200 characters."));
        assertThat(faults("key,kind\n,host\n")).hasSize(1);
        assertThat(faults("kind\nhost\n").getFirst().line()).isEqualTo(1);
    }

    @Test
    void whatIsLeftOutOfALineStaysAsItIs() {
        var subject = subject();
        var before = estate.byKey(subject.key()).orElseThrow();
        var read = file.read("key,name\n%s,Another name\n".formatted(subject.key()));
        assertThat(read.faults()).isEmpty();
        assertThat(read.changes()).singleElement().satisfies(change -> assertThat(change.after())
                .contains("Another name"));
        file.apply("key,name\n%s,Another name\n".formatted(subject.key()), person("lead"));
        var after = estate.byKey(subject.key()).orElseThrow();
        assertThat(after.name()).isEqualTo("Another name");
        assertThat(after.kind()).isEqualTo(before.kind()).isEqualTo(Estate.INTERFACE);
        assertThat(after.applicationId()).isEqualTo(before.applicationId());
    }

    @Test
    void aFileWithOneWrongLineChangesNothingAtAll() {
        var subject = subject();
        var read = file.apply("key,name\n%s,Changed\n%s,\n".formatted(subject.key(), "x".repeat(201)), person("lead"));
        assertThat(read.faults()).hasSize(1);
        assertThat(estate.byKey(subject.key()).orElseThrow().name()).isEqualTo("Interface " + subject.key());
    }
}
