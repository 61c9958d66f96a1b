package app.morvet.ground.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.Set;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * What changes something comes from Morvet's own pages: browsers say whence a request comes (Fetch Metadata, W3C), or at least
 * from which origin, and a page at another port of the same machine is another's.
 */
final class OwnPagesOnly extends OncePerRequestFilter {
    private static final Set<String> SAFE = Set.of("GET", "HEAD", "OPTIONS", "TRACE");

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        if (SAFE.contains(request.getMethod()) || isOwn(request)) chain.doFilter(request, response);
        else response.sendError(HttpServletResponse.SC_FORBIDDEN);
    }

    private static boolean isOwn(HttpServletRequest request) {
        var site = request.getHeader("Sec-Fetch-Site");
        if (site != null) return site.equals("same-origin") || site.equals("none");
        var origin = request.getHeader("Origin");
        if (origin == null) return true;
        var host = request.getHeader("Host");
        try {
            var authority = URI.create(origin).getAuthority();
            return host != null && host.equalsIgnoreCase(authority);
        } catch (IllegalArgumentException none) {
            return false;
        }
    }
}
