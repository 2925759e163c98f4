package ebb.cli;

import ebb.api.LinkRequest;
import ebb.api.TokenRequest;
import ebb.api.TokenView;
import java.io.Console;
import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

/** Where there is no browser at hand: what the console does with a one-time link. */
@Command(
    name = "welcome",
    mixinStandardHelpOptions = true,
    description =
        "Choose a password by a one-time link, and make a token. The first start of the service"
            + " shows such a link.")
final class WelcomeCommand implements Runnable {
  private static final String PAGE = "/welcome#";
  private static final String MARK = "XSRF-TOKEN";

  @ParentCommand private Main main;

  @Parameters(paramLabel = "LINK", description = "the whole address, as it was shown")
  private String link;

  @Option(
      names = "--password-file",
      description = "file with the password to choose; asked for otherwise")
  private Path passwordFile;

  private final CookieManager cookies = new CookieManager();

  @Override
  public void run() {
    var at = link.indexOf(PAGE);
    if (at < 0) {
      throw new Failure(
          "This is no link of Ebb's.",
          "Such a link has %s in it.".formatted(PAGE),
          "Copy the whole address, in quotes.");
    }
    var url = link.substring(0, at);
    send(url, "GET", "/api/v1/session", null);
    send(
        url,
        "POST",
        "/api/v1/session/link",
        new LinkRequest(link.substring(at + PAGE.length()), password()));
    var made =
        Service.JSON.readValue(
            send(url, "POST", "/api/v1/tokens", new TokenRequest("first client", null, null, null)),
            TokenView.class);
    main.output()
        .one(
            made,
            () -> {
              main.output().line("The password of %s is chosen.", made.operator());
              main.output().line("Token, shown only now: %s", made.token());
              main.output().line("Use it: export EBB_URL=%s EBB_TOKEN=%s", url, made.token());
            });
  }

  private String password() {
    try {
      if (passwordFile != null) {
        return Files.readString(passwordFile).strip();
      }
    } catch (IOException e) {
      throw new Failure(
          "The file %s cannot be read.".formatted(passwordFile),
          e.getMessage(),
          "Name a file that can be.");
    }
    Console console = System.console();
    if (console == null) {
      throw new Failure(
          "There is nobody to ask for a password.",
          "This is no terminal.",
          "Write it into a file, and name that with --password-file.");
    }
    return new String(console.readPassword("Password to choose, twelve characters or more: "));
  }

  private String send(String url, String method, String path, Object body) {
    var request =
        HttpRequest.newBuilder(URI.create(url + path))
            .header("Content-Type", "application/json")
            .method(
                method,
                body == null
                    ? BodyPublishers.noBody()
                    : BodyPublishers.ofString(Service.JSON.writeValueAsString(body)));
    cookies.getCookieStore().getCookies().stream()
        .filter(cookie -> cookie.getName().equals(MARK))
        .map(HttpCookie::getValue)
        .findFirst()
        .ifPresent(mark -> request.header("X-XSRF-TOKEN", mark));
    try (var client = HttpClient.newBuilder().cookieHandler(cookies).build()) {
      var response = client.send(request.build(), BodyHandlers.ofString());
      if (response.statusCode() >= 300) {
        throw Service.failure(response.statusCode(), response.body());
      }
      return response.body();
    } catch (IOException e) {
      throw new Unreachable(url, e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Unreachable(url, e);
    }
  }
}
