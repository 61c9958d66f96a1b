package app.morvet.sources.vendors;

import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * An instance that is rented from a vendor.
 *
 * @param component by its id
 * @param agreed    the share of a month in which it is to serve, in per cent; 0 where nothing is agreed
 * @param mail      where tickets to the vendor go; empty where it has no mail
 * @param byItself  whether its planned work becomes a window by itself
 * @param told      how long before planned work the teams concerned are told, once it is a window; null where they are not
 */
public record VendorInstance(
        long component,
        String vendor,
        double agreed,
        String mail,
        boolean byItself,
        @Nullable Duration told,
        int version) {
    public VendorInstance {
        if (vendor.isBlank() || vendor.length() > 100)
            throw new IllegalArgumentException("a vendor has a name of at most 100 letters");
        if (!(agreed >= 0 && agreed <= 100))
            throw new IllegalArgumentException("what is agreed is a share from 0 to 100 per cent");
        if (!mail.isEmpty() && !mail.matches("[^@\\s]{1,100}@[^@\\s]{1,150}"))
            throw new IllegalArgumentException("\"" + mail + "\" is no mail address");
    }
}
