package app.morvet.sources.intake;

import org.springframework.http.HttpStatus;

/** Why a whole request is refused, as a problem for its sender (RFC 9457). */
final class Refusal extends RuntimeException {
    private static final long serialVersionUID = 1;

    private final HttpStatus status;
    private final String title;

    Refusal(HttpStatus status, String title, String detail) {
        super(detail);
        this.status = status;
        this.title = title;
    }

    HttpStatus status() {
        return status;
    }

    String title() {
        return title;
    }

    String detail() {
        return String.valueOf(getMessage());
    }
}
