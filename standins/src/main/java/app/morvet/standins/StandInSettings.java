package app.morvet.standins;

import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * @param morvet      where Morvet answers
 * @param key         the intake key that Morvet gave to the hub; the scheduler's is the same with -batch after it
 * @param deskToken   what callers of the ticket desk must bear
 * @param deskSecret  what the desk bears when it calls Morvet back
 * @param data        where the stand-ins keep what they must remember
 * @param smtpPort    port of the mail server
 * @param imapPort    where the replies that come to Morvet are read; 0 for nowhere
 * @param clockOffset how far the clock is ahead of the machine's
 * @param past        how much past the hub reports at its first start
 * @param batchPast   how much past the scheduler tells of at its first start
 * @param seed        from which all traffic follows
 */
@ConfigurationProperties("standins")
public record StandInSettings(
        @DefaultValue("http://127.0.0.1:7400") URI morvet,
        @DefaultValue("") String key,
        @DefaultValue("") String deskToken,
        @DefaultValue("") String deskSecret,
        @DefaultValue("var/standins") Path data,
        @DefaultValue("7403") int smtpPort,
        @DefaultValue("0") int imapPort,
        @DefaultValue("0s") Duration clockOffset,
        @DefaultValue("21d") Duration past,
        @DefaultValue("88d") Duration batchPast,
        @DefaultValue("20260318") long seed) {}
