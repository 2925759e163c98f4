package ebb.service.notices;

import ebb.core.notice.Ask;
import ebb.core.notice.Notice;
import ebb.core.problem.Problem;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.mail.MailException;
import org.springframework.mail.MailSendException;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Sends notices over SMTP. The link of an ask is made when the notice is sent and only its hash is
 * kept, so that nothing that opens an account lies in the database.
 */
@Component
final class Outbox implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(Outbox.class);
  private static final Duration LEASE = Duration.ofMinutes(2);
  private static final Duration FIRST_DELAY = Duration.ofSeconds(2);
  private static final Duration LONGEST_DELAY = Duration.ofMinutes(15);

  private static final int TOKEN_BYTES = 24;
  private static final int AT_ONCE = 50;

  private final Database database;
  private final BusinessClock clock;
  private final Notices notices;
  private final People people;
  private final Journal journal;
  private final JavaMailSender mail;
  private final Map<Notice.Kind, Asking> askings = new EnumMap<>(Notice.Kind.class);
  private final Map<Notice.Kind, Telling> tellings = new EnumMap<>(Notice.Kind.class);
  private final String from;
  private final String publicAddress;

  Outbox(
      Database database,
      BusinessClock clock,
      Notices notices,
      People people,
      Journal journal,
      JavaMailSender mail,
      List<Asking> askings,
      List<Telling> tellings,
      @Value("${ebb.mail-from}") String from,
      @Value("${ebb.public-address}") String publicAddress) {
    this.database = database;
    this.clock = clock;
    this.notices = notices;
    this.people = people;
    this.journal = journal;
    this.mail = mail;
    tellings.forEach(one -> one.kinds().forEach(kind -> this.tellings.put(kind, one)));
    askings.forEach(one -> one.kinds().forEach(kind -> this.askings.put(kind, one)));
    this.from = from;
    this.publicAddress = publicAddress;
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("notifications", notices.count(session, Notice.State.WAITING));
  }

  @Scheduled(fixedDelay = 300)
  synchronized void send() {
    var now = Instant.now();
    if (database.read(session -> notices.count(session, Notice.State.WAITING)) > 0) {
      var claimed =
          database.write(session -> notices.claim(session, now, now.plus(LEASE), AT_ONCE));
      if (!claimed.isEmpty()) {
        send(claimed);
      }
    }
  }

  private void send(List<Notice> claimed) {
    var messages = database.write(session -> written(session, claimed));
    var failures = failures(messages.keySet());
    database.writeAll(
        session ->
            messages.forEach(
                (message, notice) -> {
                  var failure = failures.get(message);
                  if (failure == null) {
                    sent(session, notice);
                  } else {
                    failed(session, notice, failure);
                  }
                }));
  }

  /** The messages, with an ask opened for each that asks. */
  private Map<SimpleMailMessage, Notice> written(StatelessSession session, List<Notice> claimed) {
    var messages = new LinkedHashMap<SimpleMailMessage, Notice>();
    for (var notice : claimed) {
      messages.put(message(notice, text(session, notice)), notice);
    }
    return messages;
  }

  private String text(StatelessSession session, Notice notice) {
    if (notice.kind().asks()) {
      return asking(session, notice);
    }
    var telling = tellings.get(notice.kind());
    return telling == null
        ? telling(notice)
        : telling.letter(session, notice, people.get(session, notice.person()).orElseThrow());
  }

  private String asking(StatelessSession session, Notice notice) {
    var token =
        Base64.getUrlEncoder().withoutPadding().encodeToString(SecretBox.random(TOKEN_BYTES));
    notices.open(session, ask(notice, token));
    var person = people.get(session, notice.person()).orElseThrow();
    return askings.get(notice.kind()).letter(notice, person, publicAddress + "/ask/" + token);
  }

  private String telling(Notice notice) {
    return """
        %s

        Look at it here:
        %s%s

        %s
        """
        .formatted(
            notice.subject(),
            publicAddress,
            notice.about(),
            notice.kind() == Notice.Kind.DONE
                ? "You began it, and it took longer than anybody waits for."
                : "Nothing was changed; it waits for one of you.");
  }

  /** Sends all over one connection; what was not taken, with the reason. */
  private Map<Object, Exception> failures(Set<SimpleMailMessage> messages) {
    try {
      mail.send(messages.toArray(SimpleMailMessage[]::new));
      return Map.of();
    } catch (MailSendException e) {
      return e.getFailedMessages();
    } catch (MailException e) {
      return messages.stream().collect(Collectors.toMap(message -> message, _ -> e));
    }
  }

  private void sent(StatelessSession session, Notice notice) {
    notices.sent(session, notice.id(), clock.instant());
    journal.write(
        session,
        clock.instant(),
        Deed.of(
            "ebb",
            "sent notice %d (%s)".formatted(notice.id(), notice.kind().word()),
            notice.person()));
  }

  private Ask ask(Notice notice, String token) {
    return new Ask(
        SecretBox.hash(token),
        notice.id(),
        notice.person(),
        notice.kind(),
        clock.instant().plus(askings.get(notice.kind()).openFor()),
        null,
        0);
  }

  private SimpleMailMessage message(Notice notice, String text) {
    var message = new SimpleMailMessage();
    message.setFrom(from);
    message.setTo(notice.recipient());
    message.setSubject(notice.subject());
    message.setText(text);
    return message;
  }

  private void failed(StatelessSession session, Notice notice, Exception e) {
    var delay = FIRST_DELAY.multipliedBy(1L << Math.min(notice.attempts(), 9));
    var capped = delay.compareTo(LONGEST_DELAY) < 0 ? delay : LONGEST_DELAY;
    LOG.info(
        "Notice {} was not taken by the mail server; it is tried again in {}", notice.id(), capped);
    notices.failed(
        session,
        notice.id(),
        new Problem(
            "mail-not-sent",
            "The mail server did not take the notice.",
            String.valueOf(e.getMessage()),
            "See whether the mail server runs; it is tried again by itself.",
            null),
        Instant.now().plus(capped));
  }
}
