package ebb.demo;

import ebb.standins.StaffDirectory;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Connects the applications, maps HR's columns, and writes the two rules. */
public final class SetUp {
  /** The first change set after those by which the two rules came into force. */
  public static final String FIRST_SET = "3";

  private static final String SOURCE =
      """
      {"rank": 100, "key": "Staff no", "dateFormat": "dd.MM.uuuu", "ignored": ["Payroll group"],
       "columns": {"Staff no": "employeeNumber", "Family name": "name.familyName", "Given name": "name.givenName", "Job": "title",
         "Unit": "department", "Island": "location", "Line manager": "manager", "Contract": "userType",
         "Private mail": "emails.home", "Mobile": "phoneNumbers.mobile",
         "First day": "startDate", "Last day": "endDate"}}
      """;

  private static final String DIRECTORY_RULE =
      """
      {"application": "directory", "condition": "true", "leadDays": 14,
       "values": {"userName": "login", "name.givenName": "person.name.givenName",
         "name.familyName": "person.name.familyName", "name.formatted": "person.displayName",
         "displayName": "person.displayName", "title": "person.title", "department": "person.department",
         "location": "person.location", "emails.work": "login + '@skerrow.example'",
         "phoneNumbers.mobile": "person.phoneNumbers.mobile",
         "description": "'Reports to ' + manager.displayName"},
       "references": {"manager": "manager"}}
      """;

  private static final String MAIL_RULE =
      """
      {"application": "mail-house", "condition": "person.userType != 'contractor'", "leadDays": 14,
       "values": {"userName": "login", "name.givenName": "person.name.givenName",
         "name.familyName": "person.name.familyName", "displayName": "person.displayName",
         "title": "person.title", "department": "person.department",
         "emails.work": "login + '@skerrow.example'",
         "emails.other": "aliases.map(name, name + '@skerrow.example')"},
       "references": {"manager": "manager"}}
      """;

  /**
   * @param ofDirectory settings of the directory beyond the usual, as "--set=owners=given"
   */
  public static void run(Client client, Stage stage, String... ofDirectory) throws IOException {
    var folder = Files.createDirectories(stage.home().resolve("files"));
    var directory =
        new ArrayList<>(
            List.of(
                "applications",
                "connect",
                "directory",
                "--kind=ldap",
                "--set=host=127.0.0.1",
                "--set=port=" + stage.directory().port(),
                "--set=bindDn=" + StaffDirectory.ADMIN,
                "--set=people=" + StaffDirectory.PEOPLE,
                "--set=groups=" + StaffDirectory.GROUPS,
                "--set=objectClasses=inetOrgPerson,skerrowPerson",
                "--set=switchAttribute=loginAllowed",
                "--set=originAttribute=originKey",
                "--set=ownsNothing=a directory entry holds no files or mail",
                "--secret-file=" + secret(folder, Stage.DIRECTORY_PASSWORD)));
    directory.addAll(List.of(ofDirectory));
    client.done(directory.toArray(String[]::new));
    client.done(
        "applications",
        "connect",
        "mail-house",
        "--kind=scim",
        "--set=address=" + stage.mailHouse().scim(),
        "--set=companion=" + stage.mailHouse().companion(),
        "--set=network=internal",
        "--secret-file=" + secret(folder, Stage.MAIL_TOKEN));
    client.done("sources", "put", "hr", file(folder, "source.json", SOURCE));
    client.done(
        "rules",
        "put",
        "directory-for-all",
        file(folder, "directory.json", DIRECTORY_RULE),
        "--release");
    client.done(
        "rules", "put", "mail-for-employees", file(folder, "mail.json", MAIL_RULE), "--release");
    Files.deleteIfExists(folder.resolve("secret"));
  }

  private static Path secret(Path folder, String secret) throws IOException {
    return Files.writeString(folder.resolve("secret"), secret);
  }

  private static String file(Path folder, String name, String content) throws IOException {
    return Files.writeString(folder.resolve(name), content).toString();
  }

  private SetUp() {}
}
