package app.morvet.work.callouts;

import app.morvet.core.callouts.Way;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.page.CurvePicture;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseEvidence;
import app.morvet.work.cases.WorkCase;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Date;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.core.io.ByteArrayResource;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.mail.javamail.MimeMessageHelper;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;

/** Mails. All about one case are one conversation, and what answers mails by itself is asked not to. */
@Component
class MailChannel implements Channel {
    private static final String CURVE_ID = MailHtml.CURVE.substring("cid:".length());
    private static final String HEAD =
            """
            <!DOCTYPE html>
            <html lang="en"><head><meta charset="utf-8"><style>
            body { font: 15px/1.45 sans-serif; color: #14242b; max-width: 40em; }
            table { border-collapse: collapse; }
            th { font-weight: normal; color: #55656a; text-align: left; padding: 0 1.2em 0.15em 0; vertical-align: top; }
            td { padding: 0 0 0.15em 0; }
            a { color: #0b5563; }
            hr { border: 0; border-top: 1px solid #d8d3c6; }
            h2 { font-size: 1em; }
            pre { font-size: 13px; white-space: pre-wrap; }
            </style></head><body>
            """;

    private final JavaMailSender mail;
    private final TakeLinks links;
    private final CaseBook cases;
    private final CaseEvidence evidence;
    private final MorvetSettings settings;

    MailChannel(JavaMailSender mail, TakeLinks links, CaseBook cases, CaseEvidence evidence, MorvetSettings settings) {
        this.mail = mail;
        this.links = links;
        this.cases = cases;
        this.evidence = evidence;
        this.settings = settings;
    }

    @Override
    public Set<Way> ways() {
        return Set.of(Way.MAIL);
    }

    @Override
    public String send(Delivery delivery, List<Delivery> more, Instant at) throws Undelivered {
        var message = mail.createMimeMessage();
        var from = settings.mailFrom();
        var host = from.substring(from.lastIndexOf('@') + 1);
        try {
            message.setFrom(from);
            message.setRecipients(Message.RecipientType.TO, delivery.recipient());
            message.setSubject(
                    (more.isEmpty() ? "" : "%d cases. ".formatted(more.size() + 1)) + delivery.subject(), "UTF-8");
            write(message, parts(delivery, more, at));
            message.setSentDate(Date.from(at));
            message.setHeader("X-Morvet-Delivery", delivery.id().toString());
            message.setHeader("Auto-Submitted", "auto-generated");
            var caseId = delivery.caseId();
            if (caseId != null) message.setHeader("References", "<case-" + caseId + "@" + host + ">");
            message.setHeader("Message-ID", "<" + delivery.id() + "@" + host + ">");
            mail.send(message);
        } catch (MailException | MessagingException failed) {
            throw new Undelivered(rootCause(failed), false);
        }
        return "";
    }

    /** @param link how one who is told of a case takes it; made as it is sent, so that it stands nowhere but in the mail */
    private record Part(Delivery of, Optional<String> link) {}

    private List<Part> parts(Delivery delivery, List<Delivery> more, Instant at) {
        return Stream.concat(Stream.of(delivery), more.stream())
                .map(one -> new Part(one, links.of(one, at)))
                .toList();
    }

    /** As text and as HTML, with the picture of a curve where one stands in it. */
    private void write(MimeMessage message, List<Part> parts) throws MessagingException {
        var html = html(parts);
        var curve = html.contains(MailHtml.CURVE) ? curve(parts.getFirst().of()) : Optional.<byte[]>empty();
        var outputs = outputs(parts);
        var mode = curve.isPresent() && outputs.isEmpty()
                ? MimeMessageHelper.MULTIPART_MODE_RELATED
                : MimeMessageHelper.MULTIPART_MODE_MIXED_RELATED;
        var helper = new MimeMessageHelper(message, mode, "UTF-8");
        helper.setText(text(parts), curve.isPresent() ? html : MailHtml.withoutCurve(html));
        if (curve.isPresent()) helper.addInline(CURVE_ID, new ByteArrayResource(curve.get()), "image/png");
        for (var one : outputs.entrySet())
            helper.addAttachment(
                    "output-%d.txt".formatted(one.getKey()),
                    new ByteArrayResource(one.getValue().getBytes(StandardCharsets.UTF_8)),
                    "text/plain; charset=UTF-8");
    }

    /** What jobs wrote that is too long for the words of their cases, by case. */
    private Map<Long, String> outputs(List<Part> parts) {
        var outputs = new LinkedHashMap<Long, String>();
        for (var part : parts)
            if (part.of().html().contains(MailHtml.ATTACHED))
                of(part.of()).ifPresent(one -> evidence.output(one).ifPresent(text -> outputs.put(one.id(), text)));
        return outputs;
    }

    private Optional<WorkCase> of(Delivery delivery) {
        return Optional.ofNullable(delivery.caseId()).flatMap(cases::find);
    }

    private Optional<byte[]> curve(Delivery delivery) {
        return of(delivery).flatMap(evidence::curve).map(CurvePicture::png);
    }

    private static String text(List<Part> parts) {
        var text = new StringBuilder();
        for (var part : parts) {
            if (!text.isEmpty())
                text.append("\n--------\n").append(part.of().subject()).append("\n\n");
            text.append(part.of().body());
            part.link().ifPresent(link -> text.append("\nTake it, or say that you cannot: ")
                    .append(link)
                    .append("\n"));
        }
        return text.toString();
    }

    private static String html(List<Part> parts) {
        var html = new StringBuilder(HEAD);
        for (int i = 0; i < parts.size(); i++) {
            var one = parts.get(i).of();
            if (i > 0)
                html.append("<hr><h2>")
                        .append(HtmlUtils.htmlEscape(one.subject(), "UTF-8"))
                        .append("</h2>");
            var words = one.html().isEmpty() ? MailHtml.plain(one.body()) : one.html();
            // A mail bears one picture, that of its first.
            html.append(i == 0 ? words : MailHtml.withoutCurve(words));
            parts.get(i).link().ifPresent(link -> html.append("<p><a href=\"")
                    .append(HtmlUtils.htmlEscape(link, "UTF-8"))
                    .append("\">Take it, or say that you cannot</a></p>"));
        }
        return html.append("</body></html>\n").toString();
    }

    private static String rootCause(Throwable failed) {
        var cause = failed;
        while (cause.getCause() != null && cause.getCause() != cause) cause = cause.getCause();
        var words = cause.getMessage();
        return words == null ? cause.getClass().getSimpleName() : words.strip();
    }
}
