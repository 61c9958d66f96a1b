package app.morvet.ground.access;

import jakarta.servlet.http.HttpServletRequest;
import org.springframework.web.util.WebUtils;

/**
 * Where a log-in comes from.
 *
 * @param address of the machine
 * @param device  what the device was given when somebody logged in on it; empty where nobody has
 */
record Whence(String address, String device) {
    static final String COOKIE = "morvet_device";

    static Whence of(HttpServletRequest request) {
        var cookie = WebUtils.getCookie(request, COOKIE);
        return new Whence(request.getRemoteAddr(), cookie == null ? "" : cookie.getValue());
    }
}
