package app.morvet.standins.machines;

/** What can be wrong with a machine. */
enum Ailment {
    PROCESSOR_STUCK("a process runs wild", "host"),
    MEMORY_LEAK("memory leaks away", "host"),
    DISK_FILLS("a log fills the disk", "host"),
    SILENT("it tells nothing any more", "host", "instance"),
    SLOW("answers become slow", "instance"),
    ERRORS("it answers with errors", "instance"),
    WORKERS_TIED_UP("workers are tied up", "instance"),
    DESERTED("nobody comes any more", "instance"),
    STUCK("nobody takes from it", "queue"),
    HOARDED("seats are not given back", "licence"),
    AWAY("it does not answer", "endpoint"),
    RAN_OUT("it has run out", "certificate"),
    STOPPED("it has stopped", "service"),
    NOT_UP("it does not come up", "service"),
    COMES_AND_GOES("it stops and starts again and again", "service");

    private final String words;
    private final java.util.List<String> kinds;

    Ailment(String words, String... kinds) {
        this.words = words;
        this.kinds = java.util.List.of(kinds);
    }

    public String words() {
        return words;
    }

    boolean befalls(Machine machine) {
        return kinds.contains(machine.kind());
    }
}
