package app.morvet.core.messages;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;

/**
 * Finds the fields of a payload where they stand in its text, with their values as a reader would decode them. Payloads are
 * what failed, so it goes as far as it can and says from where on nothing can be read any more. What kind a payload is, its
 * first character says before its media type does. It goes over the text once, in time that is linear in its length, and keeps
 * no field.
 *
 * @param readTo from where on nothing could be read; the length of the text where all was
 */
record PayloadScan(Format format, int readTo) {
    /** How deep brackets and elements may be nested. */
    static final int DEEPEST = 200;

    enum Format {
        XML,
        JSON,
        TABLE,
        TEXT
    }

    /**
     * One field: an element, an attribute, a comment, a value, an object, a cell.
     *
     * @param start of its content in the text
     * @param end   behind it
     * @param value its own text, decoded; empty for an object or a list
     * @param leaf  whether it holds no other field
     * @param parts where its own text stands, as starts and ends in turn
     */
    record Field(FieldPath path, int start, int end, String value, boolean leaf, int[] parts) {
        static Field leaf(FieldPath path, int start, int end, String value) {
            return new Field(path, start, end, value, true, new int[] {start, end});
        }
    }

    /**
     * @param mediaType what the sender called it
     * @param fields    is told of each, an outer one after those within it
     */
    static PayloadScan of(String mediaType, String text, Consumer<Field> fields) {
        var type = mediaType.toLowerCase(Locale.ROOT);
        int first = 0;
        while (first < text.length() && isBlank(text.charAt(first))) first++;
        char c = first < text.length() ? text.charAt(first) : ' ';
        if (c == '<' && (type.contains("xml") || readsAll(text, new XmlFields(text, field -> {}).scan())))
            return new PayloadScan(Format.XML, new XmlFields(text, fields).scan());
        if ((c == '{' || c == '[')
                && (type.contains("json") || readsAll(text, new JsonFields(text, field -> {}).scan())))
            return new PayloadScan(Format.JSON, new JsonFields(text, fields).scan());
        if (type.contains("csv")) return new PayloadScan(Format.TABLE, new TableFields(text, fields).scan());
        // What is said to be something and does not begin like it cannot be read as that.
        if (type.contains("xml") || type.contains("json")) return new PayloadScan(Format.TEXT, 0);
        fields.accept(Field.leaf(FieldPath.ROOT, 0, text.length(), text));
        return new PayloadScan(Format.TEXT, text.length());
    }

    private static boolean readsAll(String text, int readTo) {
        return readTo == text.length();
    }

    private static boolean isBlank(char c) {
        return Character.isWhitespace(c) || Character.isSpaceChar(c) || c == '\uFEFF';
    }

    /** Those of a short text. */
    static List<Field> fields(String mediaType, String text) {
        var fields = new ArrayList<Field>();
        of(mediaType, text, fields::add);
        return fields;
    }
}
