package app.morvet.ground.page;

import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** The thin line under the head of every page: the time, and only what needs eyes. */
@Controller
class NowLine {
    private final List<NowSource> sources;

    NowLine(List<NowSource> sources) {
        this.sources = sources;
    }

    List<NowSource.NowItem> items() {
        return sources.stream().flatMap(source -> source.now().stream()).toList();
    }

    /** What stands beside the time. */
    List<String> standing() {
        return sources.stream()
                .map(NowSource::standing)
                .filter(words -> !words.isEmpty())
                .toList();
    }

    /** The topics on which it is fetched anew. */
    String topics() {
        return Stream.concat(Stream.of("now"), sources.stream().flatMap(one -> one.topics().stream()))
                .distinct()
                .collect(Collectors.joining(" "));
    }

    @GetMapping("/now")
    String now(Model model) {
        model.addAttribute("nowItems", items());
        model.addAttribute("nowStanding", standing());
        return "parts :: nowline";
    }
}
