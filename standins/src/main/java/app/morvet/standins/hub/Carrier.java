package app.morvet.standins.hub;

import java.time.DayOfWeek;
import java.time.ZonedDateTime;
import java.util.List;

/**
 * One interface of the hub: how much it carries, and when.
 *
 * @param key       by which Morvet knows it
 * @param perMinute messages a minute at its busiest
 * @param byHour    share of the busiest rate, for each hour of the day, as digits from 0 to 9
 * @param weekend   share of a weekday's traffic on Saturday and Sunday
 * @param seconds   that a message usually takes from entry to delivery
 */
record Carrier(String key, String name, double perMinute, String byHour, double weekend, double seconds) {
    static final List<Carrier> ALL = List.of(
            new Carrier(
                    "manifest-to-harbour-authority",
                    "Manifest to harbour authority",
                    7.0,
                    "555557899877888987766665",
                    0.9,
                    2.4),
            new Carrier("booking-settlement", "Booking settlement", 9.0, "433334556678998899998665", 1.2, 1.1),
            new Carrier("bunker-delivery-notes", "Bunker delivery notes", 0.4, "000012679997799976421000", 0.3, 14.0),
            new Carrier("crew-hours-to-payroll", "Crew hours to payroll", 1.2, "111112478888888765432111", 0.6, 6.5),
            new Carrier("departures-to-displays", "Departures to displays", 6.0, "322346899888889998765433", 1.0, 0.4),
            new Carrier("customer-updates", "Customer updates", 3.0, "211111246788999988887543", 0.8, 1.8),
            new Carrier("sea-state-readings-in", "Sea-state readings in", 8.0, "999999999999999999999999", 1.0, 0.3));

    /** Messages a minute to be expected at a time. */
    double rate(ZonedDateTime at) {
        boolean restDay = at.getDayOfWeek() == DayOfWeek.SATURDAY || at.getDayOfWeek() == DayOfWeek.SUNDAY;
        double hour = (byHour.charAt(at.getHour()) - '0') / 9.0;
        return perMinute * hour * (restDay ? weekend : 1);
    }

    static Carrier of(String key) {
        return ALL.stream().filter(one -> one.key().equals(key)).findFirst().orElseThrow();
    }
}
