package app.morvet.ground.page;

import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.thymeleaf.context.IExpressionContext;
import org.thymeleaf.linkbuilder.StandardLinkBuilder;
import org.thymeleaf.spring6.SpringTemplateEngine;

/** Morvet stands at the root of its address, so that {@code @{/cases}} is written without a request at hand. */
@Component
class OwnLinks extends StandardLinkBuilder {
    OwnLinks(SpringTemplateEngine engine) {
        engine.setLinkBuilder(this);
    }

    @Override
    protected String computeContextPath(
            IExpressionContext context, String base, @Nullable Map<String, Object> parameters) {
        return "";
    }
}
