package ebb.connectors.dav;

import ebb.connectors.carry.Logins;
import ebb.connectors.carry.Past;
import ebb.connectors.http.Lines;
import ebb.core.application.Carrier;
import ebb.core.application.Inspection.Tried;
import ebb.core.application.Part;
import ebb.core.application.Secrets;
import ebb.core.application.Unreachable;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/** A server of files or calendars that stands beside an application, as its settings say. */
public final class DavServer implements AutoCloseable {
  private final Dav dav;
  private final Homes homes;
  private final Carrier carrier;

  private DavServer(Dav dav, Homes homes, Function<Homes, Carrier> carrier) {
    this.dav = dav;
    this.homes = homes;
    this.carrier = carrier.apply(homes);
  }

  /**
   * @param logins what stands for {login}
   * @return empty if the settings name none
   */
  public static Optional<DavServer> files(
      String application, Map<String, String> settings, Secrets secrets, Logins logins) {
    return at(
        application,
        settings,
        secrets,
        DavSettings.FILES,
        settings.get(DavSettings.USER),
        logins,
        homes ->
            new FileCarrier(homes, Past.of(FileCarrier.KIND, settings, DavSettings.PAST_AFTER)));
  }

  /**
   * @param logins what stands for {login}
   * @param addresses by which owners are known to those they meet
   * @return empty if the settings name none
   */
  public static Optional<DavServer> calendars(
      String application,
      Map<String, String> settings,
      Secrets secrets,
      Logins logins,
      Logins addresses) {
    return at(
        application,
        settings,
        secrets,
        DavSettings.CALENDARS,
        settings.get(DavSettings.CALENDARS_USER),
        logins,
        homes ->
            new CalendarCarrier(
                homes,
                addresses,
                Optional.ofNullable(settings.get(DavSettings.CALENDARS_PAST)),
                DavSettings.YES.equals(settings.get(DavSettings.CALENDARS_TELL))));
  }

  private static Optional<DavServer> at(
      String application,
      Map<String, String> settings,
      Secrets secrets,
      String setting,
      String user,
      Logins logins,
      Function<Homes, Carrier> carrier) {
    return Optional.ofNullable(settings.get(setting))
        .map(
            address -> {
              var line =
                  Lines.beside(
                      application, address, user == null ? "" : user, setting, settings, secrets);
              var dav = new Dav(line, setting);
              return new DavServer(dav, new Homes(dav, setting, address, logins), carrier);
            });
  }

  public Carrier carrier() {
    return carrier;
  }

  /** Whether it lets Ebb in where all are. */
  public Tried look() {
    var what = "read the server of " + homes.setting();
    try {
      homes.isThere(homes.all());
      return Tried.works(what);
    } catch (Unreachable e) {
      return new Tried(what, e.problem(), Part.OWNERSHIP.without());
    }
  }

  @Override
  public void close() {
    dav.close();
  }
}
