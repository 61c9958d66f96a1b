package app.morvet.ground.access;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.util.Arrays;

/**
 * Where a log-in comes from.
 *
 * @param address of the machine
 * @param device  what the device was given when somebody logged in on it; empty where nobody has
 */
record Whence(String address, String device) {
    static final String COOKIE = "morvet_device";

    static Whence of(HttpServletRequest request) {
        var cookies = request.getCookies();
        var device = cookies == null
                ? ""
                : Arrays.stream(cookies)
                        .filter(one -> one.getName().equals(COOKIE))
                        .map(Cookie::getValue)
                        .findFirst()
                        .orElse("");
        return new Whence(request.getRemoteAddr(), device);
    }
}
