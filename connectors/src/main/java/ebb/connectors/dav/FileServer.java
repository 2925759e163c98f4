package ebb.connectors.dav;

import ebb.connectors.carry.Logins;
import ebb.connectors.http.Lines;
import ebb.core.application.Carrier;
import ebb.core.application.Inspection.Tried;
import ebb.core.application.Part;
import ebb.core.application.Secrets;
import ebb.core.application.Unreachable;
import java.net.URI;
import java.util.Map;
import java.util.Optional;

/** The file server that stands beside an application, as its settings say. */
public final class FileServer implements AutoCloseable {
  private final String address;
  private final Dav dav;
  private final Logins logins;

  private FileServer(String address, Dav dav, Logins logins) {
    this.address = address;
    this.dav = dav;
    this.logins = logins;
  }

  /**
   * @param logins what stands for {login}
   * @return empty if the settings name none
   */
  public static Optional<FileServer> of(
      String application, Map<String, String> settings, Secrets secrets, Logins logins) {
    return Optional.ofNullable(settings.get(DavSettings.FILES))
        .map(
            address ->
                new FileServer(
                    address,
                    new Dav(
                        Lines.beside(
                            application,
                            address,
                            settings.getOrDefault(DavSettings.USER, ""),
                            DavSettings.SECRET,
                            settings,
                            secrets)),
                    logins));
  }

  public Carrier carrier() {
    return new FileCarrier(dav, address, logins);
  }

  /** Whether it lets Ebb in where all files are. */
  public Tried look() {
    var what = "read the file server";
    try {
      dav.find(
          URI.create(address.substring(0, address.indexOf(DavSettings.PLACE))), 0, "resourcetype");
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
