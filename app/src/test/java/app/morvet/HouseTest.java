package app.morvet;

import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.ArchConfiguration;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The floors of the house are those of the way of the data: nothing walks back, and what is a feature's is its own. */
class HouseTest {
    /** From the ground up. */
    private static final List<String> FLOORS =
            List.of("ground", "sources", "alerting", "rules", "work", "views", "demo");

    private static final JavaClasses HOUSE = house();

    private static final Path SOURCES = Path.of("src/main/java/app/morvet");
    private static final Path MIGRATIONS = Path.of("src/main/resources/db/migration");

    /**
     * What still looks into tables of others, on its way out: the bulk work on failed messages, and the demo that makes a
     * past. It may get shorter, and nothing is added.
     */
    private static final Map<String, Set<String>> GUESTS = Map.of(
            "mending", Set.of("failed_message", "sorting_rule", "untold_failure", "failure_fold"),
            "interfaces", Set.of("failed_message", "interface_hour", "interface_state"),
            "failures", Set.of("failed_message", "untold_failure"),
            "messages", Set.of("dealing", "person", "sent_again", "sorting_rule"),
            "readings", Set.of("component"),
            "access", Set.of("feed"),
            "intake", Set.of("feed"),
            "guards", Set.of("series"),
            "demo",
                    Set.of(
                            "audit_entry",
                            "carried_count",
                            "failed_message",
                            "feed",
                            "job_run",
                            "reading",
                            "series",
                            "work_case"));

    /** Of what the libraries bring nothing is asked, so nothing of it is read. */
    private static JavaClasses house() {
        ArchConfiguration.get().setResolveMissingDependenciesFromClassPath(false);
        return new ClassFileImporter()
                .withImportOption(new ImportOption.DoNotIncludeTests())
                .importPackages("app.morvet");
    }

    private static String part(String packageName, int place) {
        var parts = packageName.split("\\.");
        return parts.length > place ? parts[place] : "";
    }

    /** Imports from a floor to one above it. */
    private static Set<String> upwards(JavaClasses classes) {
        var found = new TreeSet<String>();
        for (var one : classes)
            for (var dependency : one.getDirectDependenciesFromSelf()) {
                int from = floor(one);
                int to = floor(dependency.getTargetClass());
                if (from >= 0 && to > from)
                    found.add(
                            one.getName() + " -> " + dependency.getTargetClass().getName());
            }
        return found;
    }

    private static int floor(JavaClass one) {
        return one.getPackageName().startsWith("app.morvet.") ? FLOORS.indexOf(part(one.getPackageName(), 2)) : -1;
    }

    @Test
    void everyFeatureStandsOnAFloor() {
        assertThat(HOUSE.stream()
                        .map(JavaClass::getPackageName)
                        .filter(name -> !name.equals("app.morvet")
                                && !name.startsWith("app.morvet.core")
                                && !name.startsWith("app.morvet.probe"))
                        .map(name -> part(name, 2))
                        .collect(Collectors.toSet()))
                .isEqualTo(Set.copyOf(FLOORS));
    }

    @Test
    void nothingIsImportedFromAFloorAbove() {
        assertThat(upwards(HOUSE)).isEmpty();
    }

    /** A test may do what the house may not: this one takes from above, and that is seen. */
    @Test
    void whatIsTakenFromAboveIsSeen() {
        var tests = new ClassFileImporter().importClasses(app.morvet.ground.FromAbove.class);
        assertThat(upwards(tests)).anyMatch(one -> one.contains("FromAbove -> app.morvet.work"));
    }

    @Test
    void featuresGoRoundInNoCircle() {
        slices().matching("app.morvet.(*).(*)..").should().beFreeOfCycles().check(HOUSE);
    }

    @Test
    void aTableIsNamedInTheSqlOfItsOwnerAlone() throws IOException {
        var owners = owners();
        assertThat(owners.keySet()).contains("alert", "work_case", "failed_message");
        assertThat(strangers(owners)).isEmpty();
    }

    /** Who is a guest no longer is taken off the list. */
    @Test
    void theListOfGuestsIsNoLongerThanItMustBe() {
        var named = named();
        GUESTS.forEach((feature, tables) ->
                assertThat(named.getOrDefault(feature, Set.of())).as(feature).containsAll(tables));
    }

    /** By table, the features that name it and are no guests there. */
    private static Map<String, String> owners() throws IOException {
        var owners = new TreeMap<String, String>();
        var named = named();
        for (var table : tables()) {
            var by = named.entrySet().stream()
                    .filter(one -> one.getValue().contains(table))
                    .map(Map.Entry::getKey)
                    .filter(feature -> !GUESTS.getOrDefault(feature, Set.of()).contains(table))
                    .toList();
            if (!by.isEmpty()) owners.put(table, String.join(" and ", by));
        }
        return owners;
    }

    private static List<String> strangers(Map<String, String> owners) {
        return owners.entrySet().stream()
                .filter(one -> one.getValue().contains(" and "))
                .map(one -> one.getKey() + " is named by " + one.getValue())
                .toList();
    }

    private static final Pattern TABLE = Pattern.compile("(?i)create table (?:if not exists )?(\\w+)");

    private static Set<String> tables() throws IOException {
        var tables = new TreeSet<String>();
        try (var files = Files.list(MIGRATIONS)) {
            for (var file : files.sorted().toList()) {
                var sql = Files.readString(file);
                TABLE.matcher(sql).results().forEach(found -> tables.add(found.group(1)));
            }
            return tables;
        }
    }

    private static final Pattern SQL =
            Pattern.compile("\"\"\"(.*?)\"\"\"|\"((?:[^\"\\\\\\n]|\\\\.)*)\"", Pattern.DOTALL);
    private static final Pattern NAMED =
            Pattern.compile("\\b(?:from|join|into|update|copy|truncate|exists)\\s+\\(?\\s*(\\w+)");
    private static final Pattern VERB = Pattern.compile("\\b(?:select|insert|update|delete|copy|truncate)\\b");

    /** Which tables the SQL in some source names. */
    static Set<String> namedIn(String source, Set<String> tables) {
        var found = new TreeSet<String>();
        SQL.matcher(source).results().forEach(literal -> {
            var sql = literal.group(1) == null ? literal.group(2) : literal.group(1);
            if (!VERB.matcher(sql).find()) return;
            NAMED.matcher(sql)
                    .results()
                    .map(one -> one.group(1))
                    .filter(tables::contains)
                    .forEach(found::add);
        });
        return found;
    }

    /** The tables that each feature names. */
    private static Map<String, Set<String>> named() {
        try (Stream<Path> files = Files.walk(SOURCES)) {
            var tables = tables();
            var named = new TreeMap<String, Set<String>>();
            for (var file :
                    files.filter(one -> one.toString().endsWith(".java")).toList()) {
                var feature = file.getParent().getFileName().toString();
                named.computeIfAbsent(feature, none -> new TreeSet<>()).addAll(namedIn(Files.readString(file), tables));
            }
            return named;
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "jdbc.sql(\"select * from alert where id = 1\")                       | alert",
                "jdbc.sql(\"insert into alert (id) values (1)\")                      | alert",
                "jdbc.sql(\"update alert set level = :level\")                        | alert",
                "jdbc.sql(\"delete from case_alert where exists (select 1 from alert)\") | alert,case_alert",
                "live.changed(\"alert\")                                              | ''",
                "throw new Refused(\"an update of alert is refused\")                 | ''"
            })
    void aTableIsFoundInSqlAndNotInWords(String source, String tables) {
        assertThat(String.join(",", namedIn(source, Set.of("alert", "case_alert"))))
                .isEqualTo(tables);
    }
}
