package ebb.core.person;

import ebb.core.person.Attribute.Type;
import java.util.List;

/**
 * The attributes every organisation has: names of RFC 7643 (sections 4.1 and 4.3) where that has
 * one.
 */
public final class Attributes {
  public static final String GIVEN_NAME = "name.givenName";
  public static final String FAMILY_NAME = "name.familyName";
  public static final String DISPLAY_NAME = "displayName";
  public static final String TITLE = "title";
  public static final String DEPARTMENT = "department";

  /** Beside the main one; with semicolons between. */
  public static final String FURTHER_UNITS = "furtherUnits";

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

  /** The print of a picture; comes with pictures of a bundle only (RFC 7643, section 4.1.2). */
  public static final String PHOTO = "photos.photo";

  public static final String AWAY_UNTIL = "awayUntil";

  /** In the order in which people fill them in. */
  static final List<Attribute> STANDARD =
      List.of(
          // Many people have one name only; it is kept as the family name.
          Attribute.standard(GIVEN_NAME, Type.TEXT, false),
          Attribute.standard(FAMILY_NAME, Type.TEXT, true),
          Attribute.standard(DISPLAY_NAME, Type.TEXT, false),
          Attribute.standard(EMPLOYEE_NUMBER, Type.TEXT, false),
          Attribute.standard(USER_TYPE, Type.TEXT, false),
          Attribute.standard(TITLE, Type.TEXT, false),
          Attribute.standard(DEPARTMENT, Type.TEXT, false),
          Attribute.standard(FURTHER_UNITS, Type.TEXT, false),
          Attribute.standard(LOCATION, Type.TEXT, false),
          Attribute.standard(MANAGER, Type.PERSON, false),
          Attribute.standard(HOME_EMAIL, Type.EMAIL, false),
          Attribute.standard(MOBILE, Type.PHONE, false),
          Attribute.standard(TIMEZONE, Type.ZONE, false),
          Attribute.standard(START_DATE, Type.DATE, false),
          Attribute.standard(END_DATE, Type.DATE, false),
          Attribute.standard(AWAY_FROM, Type.DATE, false),
          Attribute.standard(AWAY_UNTIL, Type.DATE, false));

  private Attributes() {}
}
