package app.morvet.demo;

import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * What the start command says about the stand-ins.
 *
 * @param key        the intake key of the integration hub
 * @param desk       where the ticket desk answers
 * @param deskToken  what the desk wants to see
 * @param cadence    how often the machines' pages are fetched
 * @param deskSecret what the desk's call-backs bear
 */
@ConfigurationProperties("morvet.demo")
record DemoSettings(
        String key, String desk, String deskToken, String deskSecret, @DefaultValue("2m") Duration cadence) {}
