package app.morvet.ground.page;

import java.util.Map;
import org.springframework.boot.web.error.ErrorAttributeOptions;
import org.springframework.boot.webmvc.error.DefaultErrorAttributes;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.server.ResponseStatusException;

/** Of an error only what was written for people is told; what a library says of it may be nobody's business. */
@Component
class ShownErrors extends DefaultErrorAttributes {
    @Override
    public Map<String, Object> getErrorAttributes(WebRequest request, ErrorAttributeOptions options) {
        var all = super.getErrorAttributes(request, options);
        var error = getError(request);
        if (error != null && !(error instanceof ResponseStatusException)) all.put("message", "");
        return all;
    }
}
