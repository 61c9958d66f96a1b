package app.morvet;

import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;

/** What stands in a mail, by its parts. */
public final class Mailed {
    private Mailed() {}

    public static String text(Part mail) throws MessagingException, IOException {
        return lines(only(mail, "text/plain"));
    }

    public static String html(Part mail) throws MessagingException, IOException {
        return lines(only(mail, "text/html"));
    }

    /** The bytes of its pictures. */
    public static List<byte[]> pictures(Part mail) throws MessagingException, IOException {
        var all = new ArrayList<byte[]>();
        for (var part : parts(mail))
            if (part.isMimeType("image/png"))
                try (InputStream in = part.getInputStream()) {
                    all.add(in.readAllBytes());
                }
        return all;
    }

    /** What is attached under a name that begins so. */
    public static String attached(Part mail, String name) throws MessagingException, IOException {
        for (var part : parts(mail))
            if (part.getFileName() != null && part.getFileName().startsWith(name)) return lines(part);
        throw new AssertionError("there is no " + name);
    }

    /** On the wire lines end otherwise. */
    private static String lines(Part part) throws MessagingException, IOException {
        return ("" + part.getContent()).replace("\r\n", "\n");
    }

    private static Part only(Part mail, String type) throws MessagingException, IOException {
        for (var part : parts(mail)) if (part.isMimeType(type)) return part;
        throw new AssertionError("there is no " + type);
    }

    private static List<Part> parts(Part mail) throws MessagingException, IOException {
        if (!(mail.getContent() instanceof Multipart several)) return List.of(mail);
        var parts = new ArrayList<Part>();
        for (int i = 0; i < several.getCount(); i++) parts.addAll(parts(several.getBodyPart(i)));
        return parts;
    }
}
