package app.morvet.standins.hub;

import java.util.random.RandomGenerator;

/** What can be wrong with an interface. Each gives the step at which a message fails and the words of the middleware. */
enum Fault {
    HARBOUR_UNKNOWN("Harbour code unknown", "validate"),
    CONNECTION_REFUSED("Partner refuses the connection", "deliver"),
    MALFORMED_PAYLOAD("Malformed payload", "transform"),
    DUPLICATE_KEY("Duplicate key", "deliver"),
    CERTIFICATE_EXPIRED("Certificate expired", "deliver"),
    TIMED_OUT("Partner answers too late", "deliver"),
    SLOW("Slow, but delivers", "deliver");

    private final String words;
    private final String step;

    Fault(String words, String step) {
        this.words = words;
        this.step = step;
    }

    public String words() {
        return words;
    }

    String step() {
        return step;
    }

    /** The error text, with the things in it that differ from message to message. */
    String error(String businessKey, RandomGenerator random) {
        int thread = random.nextInt(1, 24);
        return switch (this) {
            case HARBOUR_UNKNOWN ->
                """
                    Unknown harbour code '%s' in /manifest/call/harbour
                      validating %s against harbour list of %d codes
                      at hub.validate.HarbourRule.check(HarbourRule:%d)
                      at hub.flow.Step.run(Step:88)  [carrier-%d]"""
                        .formatted(
                                pick(random, "FIXQV", "SEZZK", "EEPQX"),
                                businessKey,
                                14,
                                140 + random.nextInt(3),
                                thread);
            case CONNECTION_REFUSED ->
                """
                    Connect to partner-gw-%d.sundrava.example:8443 failed: connection refused
                      after %d ms, try 3 of 3
                      at hub.deliver.HttpSender.open(HttpSender:212)
                      at hub.flow.Step.run(Step:88)  [carrier-%d]"""
                        .formatted(random.nextInt(1, 4), random.nextInt(2, 40), thread);
            case MALFORMED_PAYLOAD ->
                """
                    Payload cannot be read: unexpected end of input at line %d, column %d
                      while mapping %s
                      at hub.transform.Reader.next(Reader:401)
                      at hub.flow.Step.run(Step:88)  [carrier-%d]"""
                        .formatted(random.nextInt(4, 12), random.nextInt(1, 30), businessKey, thread);
            case DUPLICATE_KEY ->
                """
                    Receiver answered 409: duplicate key value violates "uq_business_key"
                      key (ref)=(%s) already exists, row %d
                      at hub.deliver.HttpSender.answer(HttpSender:266)
                      at hub.flow.Step.run(Step:88)  [carrier-%d]"""
                        .formatted(businessKey, random.nextInt(100_000, 999_999), thread);
            case CERTIFICATE_EXPIRED ->
                """
                    TLS handshake with partner failed: certificate of CN=exchange.sundrava.example expired
                      serial %s
                      at hub.deliver.TlsSession.verify(TlsSession:97)
                      at hub.flow.Step.run(Step:88)  [carrier-%d]"""
                        .formatted(Long.toHexString(0x5a00000000L + random.nextInt(9)), thread);
            case TIMED_OUT, SLOW ->
                """
                    No answer from partner within 30000 ms
                      sent %d bytes for %s
                      at hub.deliver.HttpSender.await(HttpSender:238)
                      at hub.flow.Step.run(Step:88)  [carrier-%d]"""
                        .formatted(random.nextInt(600, 4000), businessKey, thread);
        };
    }

    private static String pick(RandomGenerator random, String... choices) {
        return choices[random.nextInt(choices.length)];
    }
}
