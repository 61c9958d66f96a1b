package app.morvet.demo;

import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * What the start command says about the stand-ins.
 *
 * @param key        the intake key of the integration hub
 * @param desk       where the ticket desk answers
 * @param deskToken  what the desk wants to see
 * @param deskSecret what the desk's call-backs bear
 * @param outpostKey the key of the outpost; null where none is started
 * @param database   the port of the database
 * @param logs       the folder where the processes write what they do
 */
@ConfigurationProperties("morvet.demo")
record DemoSettings(
        String key,
        String desk,
        String deskToken,
        String deskSecret,
        @Nullable String outpostKey,
        String database,
        String logs) {}
