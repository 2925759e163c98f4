package ebb.core.person;

import java.util.Map;
import java.util.Set;

/**
 * The attributes a person can have: names of RFC 7643 (sections 4.1 and 4.3) where that has one,
 * the organisation's own otherwise.
 */
public final class Attributes {
  public static final String GIVEN_NAME = "name.givenName";
  public static final String FAMILY_NAME = "name.familyName";
  public static final String DISPLAY_NAME = "displayName";
  public static final String TITLE = "title";
  public static final String DEPARTMENT = "department";
  public static final String USER_TYPE = "userType";
  public static final String EMPLOYEE_NUMBER = "employeeNumber";
  public static final String MANAGER = "manager";
  public static final String HOME_EMAIL = "emails.home";
  public static final String MOBILE = "phoneNumbers.mobile";
  public static final String TIMEZONE = "timezone";
  public static final String LOCATION = "location";
  public static final String START_DATE = "startDate";
  public static final String END_DATE = "endDate";
  public static final String AWAY_FROM = "awayFrom";
  public static final String AWAY_UNTIL = "awayUntil";

  /** What a value of an attribute must look like. */
  public enum Type {
    TEXT,
    DATE,
    EMAIL,
    PHONE,
    /** The key of another person in the same source. */
    PERSON,
    ZONE
  }

  private static final Map<String, Type> TYPES =
      Map.ofEntries(
          Map.entry(GIVEN_NAME, Type.TEXT),
          Map.entry(FAMILY_NAME, Type.TEXT),
          Map.entry(DISPLAY_NAME, Type.TEXT),
          Map.entry(TITLE, Type.TEXT),
          Map.entry(DEPARTMENT, Type.TEXT),
          Map.entry(USER_TYPE, Type.TEXT),
          Map.entry(EMPLOYEE_NUMBER, Type.TEXT),
          Map.entry(MANAGER, Type.PERSON),
          Map.entry(HOME_EMAIL, Type.EMAIL),
          Map.entry(MOBILE, Type.PHONE),
          Map.entry(TIMEZONE, Type.ZONE),
          Map.entry(LOCATION, Type.TEXT),
          Map.entry(START_DATE, Type.DATE),
          Map.entry(END_DATE, Type.DATE),
          Map.entry(AWAY_FROM, Type.DATE),
          Map.entry(AWAY_UNTIL, Type.DATE));

  /** Without these nobody can be told apart or addressed. */
  public static final Set<String> COMPULSORY = Set.of(GIVEN_NAME, FAMILY_NAME);

  public static Set<String> known() {
    return TYPES.keySet();
  }

  /** Null for an attribute nobody has defined. */
  public static Type type(String attribute) {
    return TYPES.get(attribute);
  }

  private Attributes() {}
}
