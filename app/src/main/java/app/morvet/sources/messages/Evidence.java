package app.morvet.sources.messages;

import app.morvet.core.messages.Fingerprint;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Csv;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.springframework.stereotype.Service;

/**
 * What goes along when failed messages are handed to somebody else: what varies between them as a table, and their payloads as
 * a bundle; with what the masks name hidden in both.
 */
@Service
public class Evidence {
    /** So many rows are in a table at most. */
    public static final int MOST_ROWS = 20_000;

    private static final int MOST_COLUMNS = 30;
    private static final long LARGEST_BUNDLE = 8L * 1024 * 1024;

    private final MessageStore store;
    private final Masks masks;
    private final Estate estate;

    Evidence(MessageStore store, Masks masks, Estate estate) {
        this.store = store;
        this.masks = masks;
        this.estate = estate;
    }

    /** A CSV (RFC 4180) of some messages: when, where, which, and each value that varies in the error in a column of its own. */
    public byte[] values(List<MessageId> messages) {
        var rows = new ArrayList<List<Object>>();
        int columns = 0;
        for (var part : parts(messages.stream().limit(MOST_ROWS).toList(), 500)) {
            for (var line : store.lines(part)) {
                var masking = masks.on(line.component());
                var values = Fingerprint.of(masking.text(line.error()).text()).values();
                var row = new ArrayList<Object>();
                row.add(line.at());
                row.add(estate.component(line.component()).name());
                row.add(masking.text(line.businessKey()).text());
                row.add(masking.text(line.step()).text());
                values.stream().limit(MOST_COLUMNS).forEach(row::add);
                columns = Math.max(columns, row.size() - 4);
                rows.add(row);
            }
        }
        var out = new StringWriter();
        try (var csv = new Csv(out)) {
            var head = new ArrayList<Object>(List.of("failed at", "interface", "business key", "step"));
            for (int i = 1; i <= columns; i++) head.add("value " + i);
            csv.line(head);
            for (var row : rows) {
                while (row.size() < columns + 4) row.add("");
                csv.line(row);
            }
        }
        return out.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static <T> List<List<T>> parts(List<T> all, int size) {
        var parts = new ArrayList<List<T>>();
        for (int i = 0; i < all.size(); i += size) parts.add(all.subList(i, Math.min(all.size(), i + size)));
        return parts;
    }

    /**
     * A zip of the payloads and errors of some messages, with a list of what is in it.
     *
     * @param most so many messages at most; it also ends at 8 MiB of payloads
     */
    public byte[] payloads(List<MessageId> messages, int most) {
        var bytes = new ByteArrayOutputStream();
        long size = 0;
        try (var zip = new ZipOutputStream(bytes, StandardCharsets.UTF_8)) {
            var list = new StringWriter();
            var contents = new Csv(list);
            contents.line("file", "failed at", "interface", "business key", "step", "payload type");
            int place = 0;
            for (var id : messages.stream().limit(most).toList()) {
                if (size >= LARGEST_BUNDLE) break;
                var found = store.detail(id, (int) LARGEST_BUNDLE);
                if (found.isEmpty()) continue;
                var whole = found.get().whole();
                var line = whole.line();
                var masking = masks.on(line.component());
                var key = masking.text(line.businessKey()).text();
                var name = "%03d-%s".formatted(++place, key.replaceAll("[^A-Za-z0-9._-]", "-"));
                var payload = payload(found.get(), masking);
                size += payload.length;
                put(zip, name + ending(whole.payloadType()), payload);
                put(zip, name + ".error.txt", masking.text(line.error()).text().getBytes(StandardCharsets.UTF_8));
                contents.line(
                        name + ending(whole.payloadType()),
                        line.at(),
                        estate.component(line.component()).name(),
                        key,
                        masking.text(line.step()).text(),
                        whole.payloadType());
            }
            contents.close();
            put(zip, "contents.csv", list.toString().getBytes(StandardCharsets.UTF_8));
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        return bytes.toByteArray();
    }

    private static byte[] payload(MessageStore.Detail found, app.morvet.core.messages.Masking masking) {
        var binary = found.binary();
        if (binary != null)
            return masking.hidesNothing() ? binary : "no text, so hidden whole".getBytes(StandardCharsets.UTF_8);
        var whole = found.whole();
        return masking.payload(whole.payloadType(), whole.payload()).text().getBytes(StandardCharsets.UTF_8);
    }

    private static void put(ZipOutputStream zip, String name, byte[] content) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(content);
        zip.closeEntry();
    }

    static String ending(String type) {
        return type.contains("xml") ? ".xml" : type.contains("json") ? ".json" : type.contains("csv") ? ".csv" : ".txt";
    }
}
