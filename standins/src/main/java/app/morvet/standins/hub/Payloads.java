package app.morvet.standins.hub;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.random.RandomGenerator;

/** What the interfaces carry. All of it is made up. */
final class Payloads {
    /** @param type media type */
    record Payload(String businessKey, String type, String text) {}

    private static final String[] SHIPS = {
        "Aurelind", "Brinja", "Calvessa", "Dunmaire", "Estrala", "Fjordis", "Galanthe", "Havsorn", "Isolde Bay"
    };
    private static final String[] GUESTS = {
        "Ilta Vaskinen", "Orvo Tuisku", "Neela Harju", "Sampo Lehtiö", "Maaria Quill", "Teuvo Brandel", "Aino Sørel"
    };
    private static final String[] HARBOURS = {
        "SNDRA", "VELMO", "KORSA", "TUULA", "BRANT", "OSTIA", "LINNE", "MARVA", "PELLO", "QUIST", "RAUHA", "SKAGE",
        "TORVE", "ULVIK"
    };

    private Payloads() {}

    static Payload of(Carrier carrier, Instant at, RandomGenerator random) {
        int number = random.nextInt(10_000, 99_999);
        var ship = SHIPS[random.nextInt(SHIPS.length)];
        var from = HARBOURS[random.nextInt(HARBOURS.length)];
        var to = HARBOURS[random.nextInt(HARBOURS.length)];
        var time = at.truncatedTo(ChronoUnit.SECONDS);
        return switch (carrier.key()) {
            case "manifest-to-harbour-authority" ->
                new Payload(
                        "MF-" + number,
                        "application/xml",
                        """
                    <manifest xmlns="urn:sundrava:manifest:2" number="MF-%d"><ship name="%s" call="SF%d"/><call><harbour>%s</harbour><berth>%d</berth><arrival>%s</arrival></call><cargo><unit id="TRL%d" weight="%d" hazardous="false"/><unit id="TRL%d" weight="%d" hazardous="true"><class>3</class></unit></cargo><persons crew="%d" passengers="%d"/></manifest>"""
                                .formatted(
                                        number,
                                        ship,
                                        10 + random.nextInt(80),
                                        to,
                                        1 + random.nextInt(9),
                                        time.plus(2, ChronoUnit.HOURS),
                                        random.nextInt(90_000),
                                        8000 + random.nextInt(20_000),
                                        random.nextInt(90_000),
                                        8000 + random.nextInt(20_000),
                                        30 + random.nextInt(60),
                                        random.nextInt(1800)));
            case "booking-settlement" ->
                new Payload(
                        "BK-" + number,
                        "application/json",
                        """
                    {"settlement":"BK-%d","sailing":"%s-%s","at":"%s","account":"SX%02d 4410 7725 %04d","currency":"EUR","lines":[{"fare":"cabin","count":%d,"amount":%d.%02d},{"fare":"car","count":1,"amount":%d.00}],"paid":true}"""
                                .formatted(
                                        number,
                                        from,
                                        to,
                                        time,
                                        10 + number % 89,
                                        number % 9973,
                                        1 + random.nextInt(4),
                                        80 + random.nextInt(300),
                                        random.nextInt(100),
                                        40 + random.nextInt(90)));
            case "bunker-delivery-notes" ->
                new Payload(
                        "BDN-" + number,
                        "text/csv",
                        """
                    note;ship;harbour;grade;tonnes;density;delivered
                    BDN-%d;%s;%s;MGO;%d.%d;0.8%d;%s
                    BDN-%d;%s;%s;VLSFO;%d.%d;0.9%d;%s
                    """
                                .formatted(
                                        number,
                                        ship,
                                        from,
                                        20 + random.nextInt(90),
                                        random.nextInt(10),
                                        40 + random.nextInt(20),
                                        time,
                                        number,
                                        ship,
                                        from,
                                        40 + random.nextInt(160),
                                        random.nextInt(10),
                                        40 + random.nextInt(20),
                                        time));
            case "crew-hours-to-payroll" ->
                new Payload(
                        "CH-" + number,
                        "application/xml",
                        """
                    <hours period="%s" batch="CH-%d"><member no="C%d"><regular>%d.0</regular><overtime>%d.5</overtime><allowance code="NIGHT">%d</allowance></member></hours>"""
                                .formatted(
                                        time.toString().substring(0, 7),
                                        number,
                                        1000 + random.nextInt(900),
                                        30 + random.nextInt(12),
                                        random.nextInt(9),
                                        random.nextInt(6)));
            case "departures-to-displays" ->
                new Payload(
                        "DP-" + number,
                        "application/json",
                        """
                    {"departure":"DP-%d","ship":"%s","from":"%s","to":"%s","planned":"%s","delayMinutes":%d,"gate":"%s"}"""
                                .formatted(
                                        number,
                                        ship,
                                        from,
                                        to,
                                        time.plus(1, ChronoUnit.HOURS),
                                        random.nextInt(25),
                                        (char) ('A' + random.nextInt(6))));
            case "customer-updates" ->
                new Payload(
                        "CU-" + number,
                        "application/json",
                        """
                    {"customer":"CU-%d","change":"%s","level":"%s","since":"%s","contact":{"name":"%s","mail":"guest.%d@passengers.example"}}"""
                                .formatted(
                                        number,
                                        random.nextBoolean() ? "address" : "loyalty",
                                        random.nextBoolean() ? "deck" : "bridge",
                                        time.toString().substring(0, 10),
                                        GUESTS[number % GUESTS.length],
                                        number));
            default ->
                new Payload(
                        "SS-" + number,
                        "application/json",
                        """
                    {"buoy":"SS-%d","at":"%s","waveMetres":%d.%d,"windMetresPerSecond":%d.%d,"waterCelsius":%d.%d}"""
                                .formatted(
                                        number,
                                        time,
                                        random.nextInt(4),
                                        random.nextInt(10),
                                        random.nextInt(20),
                                        random.nextInt(10),
                                        2 + random.nextInt(15),
                                        random.nextInt(10)));
        };
    }
}
