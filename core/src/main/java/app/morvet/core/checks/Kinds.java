package app.morvet.core.checks;

import java.util.List;

/** All kinds of checks there are. */
public final class Kinds {
    public static final List<Kind> ALL = List.of(
            WebCall.KIND,
            WebPage.KIND,
            Port.KIND,
            Certificate.KIND,
            CertificateFile.KIND,
            Sql.KIND,
            Command.KIND,
            OsService.KIND,
            Processes.KIND,
            FileLook.KIND,
            LogLines.KIND);

    private Kinds() {}

    /** @throws IllegalArgumentException where there is none; says which there are */
    public static Kind byKey(String key) {
        return ALL.stream()
                .filter(one -> one.key().equals(key))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("\"%s\" is no kind of check; those are %s"
                        .formatted(
                                key,
                                String.join(", ", ALL.stream().map(Kind::key).toList()))));
    }
}
