package ebb.connectors.dav;

import java.io.IOException;
import java.io.StringReader;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.data.ParserException;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.TimeZoneRegistry;
import net.fortuna.ical4j.model.TimeZoneRegistryFactory;
import net.fortuna.ical4j.model.ZoneRulesProviderImpl;

/**
 * What it read has its times only while it is open: the library forgets the time zones a calendar
 * brings once nobody holds their registry any more, and has 1,500 places for them in all, which it
 * gets back at a garbage collection only.
 */
final class CalendarReader implements AutoCloseable {
  private final TimeZoneRegistry zones = TimeZoneRegistryFactory.getInstance().createRegistry();

  Calendar read(String text) throws IOException, ParserException {
    return new CalendarBuilder(zones).build(new StringReader(text));
  }

  @Override
  public void close() {
    var places = ZoneRulesProviderImpl.INSTANCE.getZoneIdPool();
    zones.getZoneRules().keySet().forEach(places::release);
  }
}
