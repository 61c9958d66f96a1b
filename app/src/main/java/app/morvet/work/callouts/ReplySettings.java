package app.morvet.work.callouts;

import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * The mailbox into which replies come, read by IMAP (RFC 9051).
 *
 * @param host   empty where nobody reads them
 * @param tls    whether the connection is sealed from its first byte
 * @param folder what is read
 * @param every  how often it is looked at
 */
@ConfigurationProperties("morvet.replies")
public record ReplySettings(
        @DefaultValue("") String host,
        @DefaultValue("993") int port,
        @DefaultValue("true") boolean tls,
        @DefaultValue("") String user,
        @DefaultValue("") String password,
        @DefaultValue("INBOX") String folder,
        @DefaultValue("30s") Duration every) {

    boolean on() {
        return !host.isBlank();
    }
}
