package ebb.api;

import java.time.LocalDate;
import java.util.Map;
import java.util.Set;

/**
 * A standing source, as it is set up.
 *
 * @param kind folder, http, sftp or push
 * @param settings what connecting needs: path and names of a folder; address and user over http;
 *     host, port, user, path, names and hostKey over sftp; groupsIn of what is pushed
 * @param secret a password, bearer token or private key; null keeps the one there is
 * @param cron when deliveries are got or expected: seconds, minutes, hours, days, months, weekdays;
 *     null for at no time
 * @param zone in which its times are meant; null for the organisation's
 * @param blackouts days on which nothing is got, and nothing expected
 * @param graceMinutes how long after its time a delivery is not late yet; null for an hour
 * @param complete whether each delivery names everybody
 * @param missing what somebody is whom a complete delivery does not name: undecided to be asked,
 *     leaver or still-here
 */
public record FeedEdit(
    String kind,
    Map<String, String> settings,
    String secret,
    String cron,
    String zone,
    Set<LocalDate> blackouts,
    Integer graceMinutes,
    boolean complete,
    String missing) {}
