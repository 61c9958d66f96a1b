package app.morvet.demo;

import app.morvet.core.changes.Change;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.changes.Changes;
import java.time.Clock;
import java.time.LocalTime;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** What was changed at Sundrava Ferries in the last weeks, and shortly before the trouble of tonight. */
@Component
@Profile("demo")
class DemoChanges {
    private final Changes changes;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Clock clock;

    DemoChanges(Changes changes, Estate estate, MorvetSettings settings, Clock clock) {
        this.changes = changes;
        this.estate = estate;
        this.settings = settings;
        this.clock = clock;
    }

    void add() {
        var now = clock.instant();
        var today = now.atZone(settings.zone()).toLocalDate();
        long feed = estate.feeds().getFirst().id();
        for (var line :
                """
                20 | 22:10 | gangway-1         | version    | booking front end | 4.17.3 | 4.18.0 | release train | fares in two steps
                20 | 22:24 | gangway-2         | version    | booking front end | 4.17.3 | 4.18.0 | release train |
                20 | 22:31 | gangway-3         | version    | booking front end | 4.17.3 | 4.18.0 | release train |
                17 | 23:02 | quay-04           | version    | system            | 12.8 | 12.9 | Harbour platform |
                17 | 23:20 | quay-05           | version    | system            | 12.8 | 12.9 | Harbour platform |
                13 | 10:41 | quay-03           | start mode | manifest archiver | by hand | at boot | Pia Lumme | it was started by hand after the last restart
                9  | 21:58 | ledger-1          | version    | ledger            | 5.2.2 | 5.2.3 | release train |
                9  | 22:05 | ledger-1          | setting    | pool size         | 40 | 60 | release train | asked for by Settlement
                6  | 22:12 | gangway-1         | version    | booking front end | 4.18.0 | 4.19.0 | release train |
                6  | 22:26 | gangway-2         | version    | booking front end | 4.18.0 | 4.19.0 | release train |
                6  | 22:33 | gangway-3         | version    | booking front end | 4.18.0 | 4.19.0 | release train |
                3  | 15:20 | chart-seats       | file       | seats.lic         | 120 seats | 150 seats | Vendor Liaison |
                1  | 22:40 | manifold-1        | version    | manifest mapper   | 7.4.0 | 7.4.1 | release train |
                1  | 22:52 | manifold-2        | version    | manifest mapper   | 7.4.0 | 7.4.1 | release train |
                0  | 03:58 | manifest-to-harbour-authority | file | harbour-codes.csv | of December | of March | release train | 14 codes where there were 212
                0  | 03:52 | exchange-gateway  | setting    | cipher list       | from 2024 | from 2027 | Harbour exchange | announced for April
                0  | 02:05 | quay-04           | setting    | backup window     | 04:00 | 02:00 | Harbour platform |
                """
                        .lines()
                        .toList()) {
            var part = line.split("\\|", -1);
            var at = today.minusDays(Long.parseLong(part[0].strip()))
                    .atTime(LocalTime.parse(part[1].strip()))
                    .atZone(settings.zone())
                    .toInstant();
            if (at.isAfter(now)) continue;
            changes.set(
                    feed,
                    part[2].strip(),
                    new Change(
                            at,
                            part[3].strip(),
                            part[4].strip(),
                            part[5].strip(),
                            part[6].strip(),
                            part[7].strip(),
                            part[8].strip()));
        }
    }
}
