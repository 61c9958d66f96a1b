package app.morvet.standins.vendors;

import java.util.Arrays;

/** A vendor with its one instance, and how its feed is shaped. */
enum Vendor {
    OSTREVIA("ostrevia", "Ostrevia", "ov-eu-7", "customer records", "lookup,import,export"),
    PELLAROO("pellaroo", "Pellaroo", "plr-north-2", "payroll", ""),
    MARKENTIDE("markentide", "Markentide", "mk-inv-3", "e-invoicing", "");

    private final String key;
    private final String title;
    private final String instance;
    private final String does;
    private final String functions;

    Vendor(String key, String title, String instance, String does, String functions) {
        this.key = key;
        this.title = title;
        this.instance = instance;
        this.does = does;
        this.functions = functions;
    }

    public String key() {
        return key;
    }

    public String title() {
        return title;
    }

    public String instance() {
        return instance;
    }

    public String does() {
        return does;
    }

    String[] functions() {
        return functions.isEmpty() ? new String[0] : functions.split(",");
    }

    static Vendor of(String key) {
        return Arrays.stream(values())
                .filter(one -> one.key.equals(key) || one.instance.equals(key))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("There is no vendor " + key + "."));
    }
}
