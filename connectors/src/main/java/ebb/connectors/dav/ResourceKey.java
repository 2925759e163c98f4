package ebb.connectors.dav;

import java.net.URI;

/**
 * A file as it was when it was listed: one that changes is another by its ETag.
 *
 * @param etag empty where the server gives none, and for folders
 */
record ResourceKey(DavPath path, String etag, boolean isCollection, long bytes) {
  private static final String ETAG = "?etag=";

  String text() {
    var way = path.under("/", isCollection).getRawPath().substring(1);
    return etag.isEmpty() ? way : way + ETAG + DavPath.encoded(etag);
  }

  /** Without its size. */
  static ResourceKey of(String text) {
    var at = URI.create("/" + text);
    var query = at.getQuery();
    return new ResourceKey(
        DavPath.of(at.getRawPath()),
        query == null ? "" : query.substring(ETAG.length() - 1),
        at.getRawPath().endsWith("/"),
        0);
  }
}
