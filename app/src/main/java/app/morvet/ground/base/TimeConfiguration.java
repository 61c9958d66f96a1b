package app.morvet.ground.base;

import java.time.Clock;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** One clock for all, so that a demo or a test can stand at another instant. */
@Configuration(proxyBeanMethods = false)
class TimeConfiguration {
    @Bean
    Clock clock(MorvetSettings settings) {
        var file = settings.clockFile();
        return file == null
                ? Clock.offset(Clock.systemUTC(), settings.clockOffset())
                : new FileClock(file, Clock.systemUTC(), System::nanoTime);
    }
}
