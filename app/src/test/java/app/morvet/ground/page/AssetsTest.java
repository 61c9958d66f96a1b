package app.morvet.ground.page;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.regex.Pattern;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.core.io.FileSystemResource;

/** What a browser keeps of styles and scripts, and when it fetches them anew. */
class AssetsTest extends MorvetTest {
    private static final Path SCRIPTS = Path.of("src/main/resources/static/js");
    private static final Pattern IMPORT = Pattern.compile("from \"([^\"]+)\"");

    @TempDir
    private Path folder;

    private FileSystemResource file(String name, String content) throws IOException {
        return new FileSystemResource(Files.writeString(folder.resolve(name), content));
    }

    private HttpResponse<String> asked(String path) throws Exception {
        return HTTP.send(
                HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private static String kept(HttpResponse<String> answer) {
        return answer.headers().firstValue("cache-control").orElse("");
    }

    @Test
    void theirAddressChangesWithWhatIsInThemAndWithNothingElse() throws Exception {
        var style = file("a.css", "p { margin: 0 }");
        var script = file("b.js", "start();");
        var before = Assets.stamp(style, script);
        assertThat(before).matches("[0-9a-f]{16}").isEqualTo(Assets.stamp(script, style));
        file("b.js", "startAll();");
        assertThat(Assets.stamp(style, script)).isNotEqualTo(before);
        file("b.js", "start();");
        assertThat(Assets.stamp(style, script)).isEqualTo(before);
        assertThat(Assets.stamp(style)).isNotEqualTo(before);
    }

    @Test
    void whatAPageNamesIsThereAndIsKeptForGood() throws Exception {
        var page = Jsoup.parse(asked("/login").body());
        var named = new ArrayList<String>();
        page.select("link[rel=stylesheet]").forEach(one -> named.add(one.attr("href")));
        page.select("script[src]").forEach(one -> named.add(one.attr("src")));
        assertThat(named).hasSize(5).allMatch(one -> one.startsWith("/assets/") || one.startsWith("/webjars/"));
        for (var one : named) {
            var answer = asked(one);
            assertThat(answer.statusCode()).as(one).isEqualTo(200);
            if (one.startsWith("/assets/"))
                assertThat(kept(answer)).contains("max-age=31536000", "public", "immutable");
        }
    }

    /** It may be that of another node, before or after its upgrade; what is given is not what that address means. */
    @Test
    void whatAnotherVersionNamesIsGivenAndNotKept() throws Exception {
        var answer = asked("/assets/0123456789abcdef/css/morvet.css");
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.body()).isEqualTo(Files.readString(Path.of("src/main/resources/static/css/morvet.css")));
        assertThat(kept(answer)).isEqualTo("no-cache");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "/assets/x/../application.yaml",
                "/assets/x/%2e%2e/application.yaml",
                "/assets/x/%2e%2e%2fapplication.yaml",
                "/assets/%2e%2e/application.yaml",
                "/assets/x/",
                "/assets/x",
                "/assets/x/js",
                "/assets/x/nowhere.js"
            })
    void nothingElseIsGiven(String path) throws Exception {
        assertThat(asked(path).statusCode()).isGreaterThanOrEqualTo(300);
    }

    /** So they bear the same stamp, and are there. */
    @Test
    void scriptsNameOthersFromWhereTheyStand() throws Exception {
        try (var all = Files.list(SCRIPTS)) {
            for (var script : all.toList()) {
                var imports = IMPORT.matcher(Files.readString(script));
                while (imports.find()) {
                    assertThat(imports.group(1)).as(script.toString()).startsWith(".");
                    assertThat(SCRIPTS.resolve(imports.group(1)).normalize()).isRegularFile();
                }
            }
        }
    }
}
