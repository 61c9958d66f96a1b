package app.morvet.ground.connections;

import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Something outside that Morvet calls. All of it is data, so that it is connected without code.
 *
 * @param id       0 while it is new
 * @param sort     what it is for, as {@link ConnectionSort#sort} says
 * @param key      tells it from others of its sort
 * @param feed     the feed by which the same system reports, or null
 * @param url      where it answers
 * @param headers  one {@code Name: value} a line, sent with each call; may bear secrets
 * @param secret   what its own calls must bear; empty where it makes none
 * @param settings what else there is to say of this sort, by name
 * @param version  counts its changes
 */
public record Connection(
        long id,
        String sort,
        String key,
        @Nullable Long feed,
        String name,
        String url,
        String headers,
        String secret,
        Map<String, String> settings,
        int version) {
    public Connection {
        settings = Map.copyOf(settings);
    }

    /** A setting; empty where there is none of that name. */
    public String get(String setting) {
        return settings.getOrDefault(setting, "");
    }

    public String address(String path) {
        return url.replaceAll("/+$", "") + path;
    }

    public Connection with(String setting, String value) {
        var next = new TreeMap<>(settings);
        next.put(setting, value);
        return new Connection(id, sort, key, feed, name, url, headers, secret, next, version);
    }

    Connection at(String otherUrl) {
        return new Connection(id, sort, key, feed, name, otherUrl, headers, secret, settings, version);
    }

    private Connection with(String otherHeaders, String otherSecret, int otherVersion) {
        return new Connection(id, sort, key, feed, name, url, otherHeaders, otherSecret, settings, otherVersion);
    }

    /** The same for showing: what is secret stands as {@value SecretHeaders#KEPT}. */
    public Connection covered() {
        return with(SecretHeaders.covered(headers), secret.isEmpty() ? "" : SecretHeaders.KEPT, version);
    }

    /** The same, with what stands as {@value SecretHeaders#KEPT} taken from how it was before. */
    public Connection keeping(Connection before) {
        return with(
                SecretHeaders.keeping(headers, before.headers()),
                secret.equals(SecretHeaders.KEPT) ? before.secret() : secret,
                version);
    }
}
