package ebb.standins;

import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.GreenMailUtil;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.util.Arrays;
import java.util.List;

/** Catches mail sent over SMTP and shows it. */
public final class PostBox implements AutoCloseable {
  public record Letter(String to, String subject, String text) {}

  private final GreenMail server;

  /**
   * @param port 0 for any that is free
   */
  public PostBox(int port) {
    server = new GreenMail(new ServerSetup(port, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));
    server.start();
  }

  public int port() {
    return server.getSmtp().getPort();
  }

  /** Everything that arrived, oldest first. */
  public List<Letter> letters() {
    return Arrays.stream(server.getReceivedMessages()).map(PostBox::letter).toList();
  }

  public List<Letter> lettersTo(String address) {
    return letters().stream().filter(letter -> letter.to().equalsIgnoreCase(address)).toList();
  }

  private static Letter letter(MimeMessage message) {
    try {
      return new Letter(
          message.getAllRecipients()[0].toString(),
          message.getSubject(),
          message.getContent() instanceof String text ? text : GreenMailUtil.getBody(message));
    } catch (MessagingException | java.io.IOException e) {
      throw new IllegalStateException("A message that cannot be read", e);
    }
  }

  @Override
  public void close() {
    server.stop();
  }
}
