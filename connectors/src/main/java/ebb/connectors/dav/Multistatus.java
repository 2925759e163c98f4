package ebb.connectors.dav;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/** The answer to PROPFIND (RFC 4918, 13). */
final class Multistatus {
  private static final String DAV = "DAV:";
  private static final XMLInputFactory FACTORY = factory();

  /**
   * One resource and those of its properties that were found.
   *
   * @param href as the server wrote it
   */
  record Response(
      String href, boolean isCollection, boolean isCalendar, Map<String, String> properties) {}

  private static XMLInputFactory factory() {
    var factory = XMLInputFactory.newInstance();
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    factory.setProperty(XMLInputFactory.IS_COALESCING, true);
    return factory;
  }

  static List<Response> read(InputStream in) throws IOException {
    try {
      var responses = new ArrayList<Response>();
      var reader = FACTORY.createXMLStreamReader(in);
      while (reader.hasNext()) {
        if (reader.next() == XMLStreamConstants.START_ELEMENT && is(reader, "response")) {
          responses.add(response(reader));
        }
      }
      return responses;
    } catch (XMLStreamException e) {
      throw new IOException("The answer is no XML: " + e.getMessage(), e);
    }
  }

  private static Response response(XMLStreamReader reader) throws XMLStreamException {
    var href = "";
    var isCollection = false;
    var isCalendar = false;
    var properties = new HashMap<String, String>();
    var group = new HashMap<String, String>();
    while (true) {
      var event = reader.next();
      if (event == XMLStreamConstants.END_ELEMENT) {
        if (is(reader, "response")) {
          return new Response(href, isCollection, isCalendar, Map.copyOf(properties));
        }
        if (is(reader, "propstat")) {
          // Those that were asked for and are not there come with another status.
          if (group.getOrDefault("status", "").contains(" 200")) {
            properties.putAll(group);
          }
          group.clear();
        }
      } else if (event == XMLStreamConstants.START_ELEMENT) {
        switch (reader.getLocalName()) {
          case "href" -> href = href.isEmpty() ? reader.getElementText().strip() : href;
          case "collection" -> isCollection = true;
          case "calendar" -> isCalendar |= Dav.CALDAV.equals(reader.getNamespaceURI());
          case "displayname",
              "getcontentlength",
              "getcontenttype",
              "getetag",
              "getlastmodified",
              "quota-available-bytes",
              "status" -> {
            var name = reader.getLocalName();
            group.put(name, reader.getElementText().strip());
          }
          default -> {}
        }
      }
    }
  }

  private static boolean is(XMLStreamReader reader, String name) {
    return reader.getLocalName().equals(name) && DAV.equals(reader.getNamespaceURI());
  }

  private Multistatus() {}
}
