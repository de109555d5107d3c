package eleutheria.server.letters;

import eleutheria.core.facts.FactValue;
import eleutheria.server.pictures.PictureStore;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.World;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.io.UnsupportedEncodingException;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.ByteArrayResource;
import org.springframework.mail.MailPreparationException;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.mail.javamail.MimeMessageHelper;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;

/**
 * Writes letters in the organisation's name and colour, as text and as HTML together (RFC 2046,
 * section 5.1.4); the mark comes with them (RFC 2392), and nothing is loaded from elsewhere.
 */
@Component
class Letters {
  private final World world;
  private final JavaMailSender mail;
  private final Organisation organisation;
  private final ServerSettings settings;
  private final PictureStore pictures;

  Letters(
      World world,
      JavaMailSender mail,
      Organisation organisation,
      ServerSettings settings,
      PictureStore pictures) {
    this.pictures = pictures;
    this.world = world;
    this.mail = mail;
    this.organisation = organisation;
    this.settings = settings;
  }

  /**
   * @param address whom it is sent to
   * @param name how they are greeted
   */
  MimeMessage message(String address, String name, Letter letter) {
    MimeMessage message = mail.createMimeMessage();
    Optional<byte[]> mark = mark();
    try {
      MimeMessageHelper helper =
          new MimeMessageHelper(message, true, StandardCharsets.UTF_8.name());
      helper.setFrom(settings.mailFrom(), organisation());
      helper.setTo(address);
      helper.setSubject(letter.subject());
      helper.setText(text(name, letter), html(name, letter, mark.isPresent() ? "cid:mark" : null));
      if (mark.isPresent()) {
        helper.addInline("mark", new ByteArrayResource(mark.get()), "image/png");
      }
      // No answering machine answers it (RFC 3834, section 5).
      message.setHeader("Auto-Submitted", "auto-generated");
    } catch (MessagingException | UnsupportedEncodingException e) {
      throw new MailPreparationException(e);
    }
    return message;
  }

  /** The organisation's mark, where it is one that mail programs draw. */
  Optional<byte[]> mark() {
    return pictures.png(world.whole().brand().mark());
  }

  /** The organisation as it calls itself on the portal. */
  String organisation() {
    String name = world.whole().brand().name();
    return name.isEmpty() ? organisation.name() : name;
  }

  String text(String name, Letter letter) {
    StringBuilder out = new StringBuilder("Hello %s,\n\n".formatted(name));
    letter.says().forEach(line -> out.append(line).append("\n\n"));
    Letter.Action action = letter.action();
    if (action != null) {
      out.append(action.label()).append(":\n").append(action.address()).append("\n\n");
    }
    for (Letter.Listed listed : letter.lists()) {
      out.append(listed.heading()).append(":\n");
      listed.items().forEach(item -> out.append("  ").append(item).append("\n"));
      out.append("\n");
    }
    letter.also().forEach(line -> out.append(line).append("\n\n"));
    return out.append("-- \n")
        .append(organisation())
        .append("\n")
        .append(letter.why())
        .append("\n")
        .toString();
  }

  /**
   * @param mark the address of the organisation's mark, which comes with the email; null for none
   */
  String html(String name, Letter letter, @Nullable String mark) {
    FactValue.Brand brand = world.whole().brand();
    StringBuilder out = new StringBuilder();
    out.append("<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\">")
        .append("<meta name=\"viewport\" content=\"width=device-width,initial-scale=1\">")
        .append("<meta name=\"color-scheme\" content=\"light dark\"><title>")
        .append(escape(letter.subject()))
        .append("</title><style>")
        .append(STYLE.replace("BAND", brand.band()))
        .append("</style></head><body><div class=\"page\"><p class=\"band\">")
        .append(
            mark == null
                ? ""
                : "<img src=\"" + escape(mark) + "\" alt=\"\" width=\"28\" height=\"28\">")
        .append(escape(organisation()))
        .append("</p><div class=\"sheet\"><p>Hello ")
        .append(escape(name))
        .append(",</p>");
    letter.says().forEach(line -> paragraph(out, line));
    Letter.Action action = letter.action();
    if (action != null) {
      out.append("<p><a class=\"act\" href=\"")
          .append(escape(action.address()))
          .append("\">")
          .append(escape(action.label()))
          .append("</a></p>");
    }
    for (Letter.Listed listed : letter.lists()) {
      out.append("<h2>").append(escape(listed.heading())).append("</h2><ul>");
      listed.items().forEach(item -> out.append("<li>").append(escape(item)).append("</li>"));
      out.append("</ul>");
    }
    letter.also().forEach(line -> paragraph(out, line));
    return out.append("</div><p class=\"why\">")
        .append(escape(letter.why()))
        .append("</p></div></body></html>")
        .toString();
  }

  private static void paragraph(StringBuilder out, String text) {
    out.append("<p>").append(escape(text)).append("</p>");
  }

  private static String escape(String text) {
    return HtmlUtils.htmlEscape(text, StandardCharsets.UTF_8.name());
  }

  private static final String STYLE =
      """
      body{margin:0;background:#eaf0ee;color:#14262b;font:16px/1.5 system-ui,sans-serif}
      .page{max-width:560px;margin:0 auto;padding:16px}
      .band{background:BAND;color:#fff;font-weight:700;font-size:18px;margin:0;padding:14px 20px}
      .band img{vertical-align:-7px;margin-right:10px}
      .sheet{background:#fff;padding:8px 20px 12px;overflow-wrap:break-word}
      h2{font-size:16px;margin:18px 0 4px}
      ul{margin:0 0 14px;padding-left:20px}
      .act{display:inline-block;background:#14262b;color:#fff;font-weight:600;text-decoration:none;
      padding:11px 18px;border-radius:4px}
      .why{color:#42565b;font-size:14px;padding:4px 20px}
      @media (prefers-color-scheme:dark){
      body{background:#101918;color:#e6eeeb}.sheet{background:#1a2422}
      .act{background:#e6eeeb;color:#101918}.why{color:#a9bab5}}
      """;
}
