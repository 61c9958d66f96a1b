package app.morvet.ground.page;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.util.HexFormat;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.Resource;
import org.springframework.core.io.support.PathMatchingResourcePatternResolver;
import org.springframework.http.CacheControl;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.PathResourceResolver;

/**
 * Styles and scripts bear in their address what is in them: {@code /assets/3f9a…/css/morvet.css}. A browser keeps them for good, and after
 * an upgrade it has the new ones with the next page. What a script imports it names from where it stands itself.
 */
@Component
class Assets implements WebMvcConfigurer {
    private static final String LOCATION = "classpath:/static/";
    private static final int STAMP_BYTES = 8;

    private final String stamp;

    Assets() throws IOException {
        this.stamp = stamp(new PathMatchingResourcePatternResolver().getResources(LOCATION + "**"));
    }

    /** The same for the same names and contents, in whatever order and folder they are found. */
    static String stamp(Resource... all) throws IOException {
        var byAddress = new TreeMap<String, Resource>();
        for (var one : all) if (one.isReadable()) byAddress.put(one.getURL().toString(), one);
        try {
            var digest = MessageDigest.getInstance("SHA-256");
            for (var one : byAddress.values()) {
                digest.update(String.valueOf(one.getFilename()).getBytes(StandardCharsets.UTF_8));
                digest.update(one.getContentAsByteArray());
            }
            return HexFormat.of().formatHex(digest.digest(), 0, STAMP_BYTES);
        } catch (NoSuchAlgorithmException none) {
            throw new IllegalStateException(none);
        }
    }

    /** Where they are: {@code /assets/3f9a…}. */
    String path() {
        return "/assets/" + stamp;
    }

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry registry) {
        handle(
                registry,
                path() + "/**",
                CacheControl.maxAge(Duration.ofDays(365)).cachePublic().immutable(),
                0);
        // While nodes are upgraded one by one, a page of one may ask another.
        handle(registry, "/assets/*/**", CacheControl.noCache(), 1);
    }

    private static void handle(ResourceHandlerRegistry registry, String pattern, CacheControl kept, int segments) {
        registry.addResourceHandler(pattern)
                .addResourceLocations(LOCATION)
                .setCacheControl(kept)
                .resourceChain(false)
                .addResolver(new Beneath(segments));
    }

    /** Leaves out the first segments of what is asked for. */
    private static final class Beneath extends PathResourceResolver {
        private final int segments;

        Beneath(int segments) {
            this.segments = segments;
        }

        @Override
        protected @Nullable Resource getResource(String path, Resource location) throws IOException {
            var asked = path;
            for (int i = 0; i < segments; i++) asked = asked.substring(asked.indexOf('/') + 1);
            return super.getResource(asked, location);
        }
    }
}
