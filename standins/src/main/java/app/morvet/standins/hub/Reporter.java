package app.morvet.standins.hub;

import app.morvet.standins.StandInSettings;
import app.morvet.standins.ToMorvet;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** Tells Morvet, as CloudEvents 1.0 batches over HTTP. */
@Component
class Reporter {

    record Carried(Carrier carrier, Instant from, Instant to, int delivered, List<Double> delays) {}

    /** How an interface stands. */
    record Stands(Carrier carrier, Instant at, String state, String reason, String version) {}

    private final StandInSettings settings;
    private final ToMorvet morvet;

    Reporter(StandInSettings settings, ToMorvet morvet) {
        this.settings = settings;
        this.morvet = morvet;
    }

    void report(List<Traffic.Failed> failed, List<Carried> carried) throws ToMorvet.NotTaken, InterruptedException {
        var events = new ArrayList<Map<String, Object>>();
        failed.forEach(one -> events.add(event(one)));
        carried.forEach(one -> events.add(event(one)));
        morvet.tell(events, settings.key());
    }

    private static Map<String, Object> event(Traffic.Failed one) {
        var attributes = new LinkedHashMap<String, Object>();
        attributes.put("flow", one.carrier().key() + "-v3");
        attributes.put("node", "hub-" + (1 + Math.floorMod(one.id().hashCode(), 2)));
        attributes.put("size", String.valueOf(one.payload().text().length()));
        var data = new LinkedHashMap<String, Object>();
        data.put("message", one.reference());
        data.put("businessKey", one.payload().businessKey());
        data.put("step", one.fault().step());
        data.put("error", one.error());
        data.put("attributes", attributes);
        data.put("payloadType", one.payload().type());
        data.put("payload", one.payload().text());
        data.put("steps", steps(one));
        if (one.carrier().key().equals("bunker-delivery-notes"))
            data.put(
                    "attachments",
                    List.of(Map.of(
                            "name",
                            one.payload().businessKey() + "-signed.txt",
                            "type",
                            "text/plain",
                            "text",
                            "Bunker delivery note " + one.payload().businessKey()
                                    + "\nSigned on board by the second engineer.\nSamples 2 of 3 kept ashore.\n")));
        return envelope(one.id(), "app.morvet.message.failed", one.carrier(), one.at(), data);
    }

    private static Map<String, Object> event(Carried one) {
        var data = new LinkedHashMap<String, Object>();
        data.put("from", one.from().toString());
        data.put("delivered", one.delivered());
        data.put("delays", one.delays());
        return envelope(
                "d:" + one.carrier().key() + ":" + one.from().toEpochMilli(),
                "app.morvet.messages.delivered",
                one.carrier(),
                one.to(),
                data);
    }

    private static Map<String, Object> envelope(
            String id, String type, Carrier carrier, Instant at, Map<String, Object> data) {
        return ToMorvet.event("/sundrava/hub", id, type, carrier.key(), at, data);
    }

    void report(List<Stands> states) throws ToMorvet.NotTaken, InterruptedException {
        var events = new ArrayList<Map<String, Object>>();
        for (var one : states) {
            var data = new LinkedHashMap<String, Object>();
            data.put("state", one.state());
            data.put("reason", one.reason());
            data.put("version", one.version());
            data.put("node", node(one.carrier()));
            events.add(envelope(
                    "s:" + one.carrier().key() + ":" + one.at().toEpochMilli() + ":" + one.state(),
                    "app.morvet.interface.state",
                    one.carrier(),
                    one.at(),
                    data));
        }
        morvet.tell(events, settings.key());
    }

    private static String node(Carrier carrier) {
        return "hub-" + (1 + Math.floorMod(carrier.key().hashCode(), 2));
    }

    /** What a message went through, as long as it took: the steps up to the one at which it failed. */
    private static List<Map<String, Object>> steps(Traffic.Failed one) {
        var steps = new ArrayList<Map<String, Object>>();
        var names = List.of("receive", "validate", "transform", "deliver");
        int last = names.indexOf(one.fault().step());
        for (int i = 0; i <= last; i++) {
            var step = new LinkedHashMap<String, Object>();
            step.put("name", names.get(i));
            step.put(
                    "at",
                    one.at()
                            .minusMillis((long) (one.carrier().seconds() * 250 * (last - i + 1)))
                            .toString());
            step.put("failed", i == last);
            if (i == 0) step.put("words", "taken from " + one.carrier().key() + "-in on " + node(one.carrier()));
            steps.add(step);
        }
        return steps;
    }
}
