package app.morvet.standins;

import java.util.NoSuchElementException;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;

/** Who asks for what there is not, or for what cannot be, is told so. */
@RestControllerAdvice
class Refusals {
    @ExceptionHandler
    ResponseEntity<String> unknown(NoSuchElementException unknown) {
        return ResponseEntity.status(404).body("There is no such thing here.\n");
    }

    @ExceptionHandler
    ResponseEntity<String> wrong(IllegalArgumentException wrong) {
        return ResponseEntity.badRequest().body(wrong.getMessage() + "\n");
    }
}
