package app.morvet.ground.page;

import app.morvet.ground.base.YamlFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.ui.Model;
import org.springframework.web.multipart.MultipartFile;

/** Text that is brought in and out as a file. */
public final class Files {
    private Files() {}

    /** The text of a form that takes a file or its text: of the file, where one was chosen. */
    public static String text(String typed, @Nullable MultipartFile upload) throws IOException {
        return upload == null || upload.isEmpty() ? typed : new String(upload.getBytes(), StandardCharsets.UTF_8);
    }

    /** The page after a file was to be taken: what was done, or what is wrong in it, with its text kept. */
    public static void taken(String text, YamlFile.Read read, Model model) {
        boolean done = read.faults().isEmpty();
        model.addAttribute("text", done ? "" : text);
        model.addAttribute("read", done ? null : read);
        model.addAttribute("done", done ? read.changes().size() : null);
    }

    /** An answer that is kept as a file. */
    public static ResponseEntity<byte[]> out(String name, String mediaType, String text) {
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_TYPE, mediaType + "; charset=utf-8")
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment().filename(name).build().toString())
                .body(text.getBytes(StandardCharsets.UTF_8));
    }

    /** An answer that is read where it is, and may be kept. */
    public static ResponseEntity<byte[]> pdf(String name, byte[] bytes) {
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_PDF)
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.inline().filename(name).build().toString())
                .body(bytes);
    }
}
