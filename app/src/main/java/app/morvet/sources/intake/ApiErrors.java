package app.morvet.sources.intake;

import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;

/** What goes wrong in the API is told as RFC 9457 problem documents; pages have an error page of their own. */
@RestControllerAdvice(annotations = RestController.class)
class ApiErrors extends ResponseEntityExceptionHandler {}
