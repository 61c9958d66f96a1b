package app.morvet.probe;

import app.morvet.core.checks.Result;
import app.morvet.core.checks.WebPage;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.apache.commons.codec.digest.DigestUtils;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Element;
import org.jsoup.select.Selector;

/** The text that is seen on a page, held against what it was when it was first looked at. */
final class PageLooking implements Looking<WebPage> {
    private static final int LONGEST = 200_000;
    private static final int SHOWN = 40;

    private final WebCalling calling;
    private final Web web = new Web();

    PageLooking(WebCalling calling) {
        this.calling = calling;
    }

    @Override
    public Class<WebPage> of() {
        return WebPage.class;
    }

    @Override
    public Result at(WebPage target, Around around, Watch watch) throws IOException, InterruptedException {
        var answer = calling.ask(
                web, target.step(), around.headers(), Map.of(), target.step().url(), watch);
        var met = Result.of(target.step().expectations(), answer);
        if (!met.passed()) return met.remembering(around.memory());
        var text = text(answer.body(), target);
        var facts = Map.of("checksum", DigestUtils.sha256Hex(text).substring(0, 16));
        if (around.memory().isEmpty() || around.memory().equals(text))
            return Result.of(List.of(), watch.took(), text).with(List.of(), facts, text);
        return Result.changed(watch.took(), "the text", difference(around.memory(), text))
                .with(List.of(), facts, around.memory());
    }

    private static String text(String html, WebPage target) {
        var page = Jsoup.parse(html, target.step().url());
        List<Element> parts;
        try {
            parts = target.part().isEmpty() ? List.of(page.body()) : page.select(target.part());
        } catch (Selector.SelectorParseException wrong) {
            throw new IllegalArgumentException(
                    "the selector " + target.part() + " cannot be read: " + wrong.getMessage(), wrong);
        }
        if (parts.isEmpty()) throw new IllegalArgumentException("there is no part " + target.part() + " on the page");
        var text = parts.stream()
                .map(Element::wholeText)
                .flatMap(String::lines)
                .map(line -> line.replaceAll("[\\s\\u00a0]+", " ").strip())
                .filter(line -> !line.isEmpty())
                .collect(Collectors.joining("\n"));
        return text.length() > LONGEST ? text.substring(0, LONGEST) : text;
    }

    /** Lines that are gone and lines that are new. */
    static String difference(String before, String now) {
        var gone = new ArrayList<>(before.lines().toList());
        now.lines().forEach(gone::remove);
        var come = new ArrayList<>(now.lines().toList());
        before.lines().forEach(come::remove);
        return shown("gone: ", gone) + shown("new: ", come);
    }

    private static String shown(String begin, List<String> lines) {
        var shown = lines.stream().limit(SHOWN).map(line -> begin + line + "\n").collect(Collectors.joining());
        return lines.size() <= SHOWN ? shown : shown + begin + "… and %,d more\n".formatted(lines.size() - SHOWN);
    }
}
