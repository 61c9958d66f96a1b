package app.morvet.ground.page;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.io.StringWriter;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.thymeleaf.context.Context;
import org.thymeleaf.context.ITemplateContext;
import org.thymeleaf.dialect.AbstractProcessorDialect;
import org.thymeleaf.engine.AttributeName;
import org.thymeleaf.exceptions.TemplateProcessingException;
import org.thymeleaf.model.IProcessableElementTag;
import org.thymeleaf.processor.IProcessor;
import org.thymeleaf.processor.element.AbstractAttributeTagProcessor;
import org.thymeleaf.processor.element.IElementTagStructureHandler;
import org.thymeleaf.standard.expression.Fragment;
import org.thymeleaf.standard.expression.StandardExpressions;
import org.thymeleaf.templatemode.TemplateMode;

/**
 * {@code m:once="~{case-parts :: row(row=${row})}"} stands for what the fragment draws, and draws it once for equal values: a list that is
 * drawn anew on all open pages, since one of its rows has changed, draws that one. The fragment sees what it is given by name and nothing
 * else of the page or of its reader, so what is given is all that what it draws can hang on; it holds no form with a token.
 */
@Component
class DrawnOnce extends AbstractProcessorDialect {
    /** In characters: some thousands of rows. What has not been asked for longest goes first. */
    private static final int KEPT = 8_000_000;

    /** In the place of {@code th:replace}. */
    private static final int PRECEDENCE = 100;

    /** What is drawn, and from what. */
    private record Drawing(String template, @Nullable Set<String> fragment, Map<String, Object> from) {}

    private final Cache<Drawing, String> kept = Caffeine.newBuilder()
            .maximumWeight(KEPT)
            .weigher((Drawing of, String drawn) -> drawn.length())
            .build();

    DrawnOnce() {
        super("drawn once", "m", PRECEDENCE);
    }

    @Override
    public Set<IProcessor> getProcessors(String prefix) {
        return Set.of(new Once(prefix));
    }

    private final class Once extends AbstractAttributeTagProcessor {
        Once(String prefix) {
            super(TemplateMode.HTML, prefix, null, false, "once", true, PRECEDENCE, true);
        }

        @Override
        protected void doProcess(
                ITemplateContext context,
                IProcessableElementTag tag,
                AttributeName attribute,
                String written,
                IElementTagStructureHandler element) {
            var expression = StandardExpressions.getExpressionParser(context.getConfiguration())
                    .parseExpression(context, written);
            if (!(expression.execute(context) instanceof Fragment asked)
                    || asked.getParameters() == null
                    || asked.hasSyntheticParameters())
                throw new TemplateProcessingException(
                        "m:once takes a fragment and names what it is drawn from, such as ~{rows :: row(row=${row})}, and not \""
                                + written + "\"");
            var of = asked.getTemplateModel().getTemplateData();
            var drawing = new Drawing(of.getTemplate(), of.getTemplateSelectors(), asked.getParameters());
            var drawn = kept.getIfPresent(drawing);
            if (drawn == null) {
                drawn = draw(context, asked);
                kept.put(drawing, drawn);
            }
            element.replaceWith(drawn, false);
        }
    }

    private static String draw(ITemplateContext page, Fragment asked) {
        var configuration = page.getConfiguration();
        var alone = configuration
                .getEngineContextFactory()
                .createEngineContext(
                        configuration,
                        asked.getTemplateModel().getTemplateData(),
                        Map.of(),
                        new Context(page.getLocale(), asked.getParameters()));
        var drawn = new StringWriter();
        configuration.getTemplateManager().process(asked.getTemplateModel(), alone, drawn);
        return drawn.toString();
    }
}
