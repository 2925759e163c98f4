package ebb.demo;

import java.util.List;

/** One line of the HR file, by HR's own headings. Dates as HR writes them; empty for none. */
record HrRow(
    String staffNo,
    String familyName,
    String givenName,
    String job,
    String unit,
    String island,
    String lineManager,
    String contract,
    String privateMail,
    String mobile,
    String firstDay,
    String lastDay) {
  static final List<String> HEADINGS =
      List.of(
          "Staff no",
          "Family name",
          "Given name",
          "Job",
          "Unit",
          "Island",
          "Line manager",
          "Contract",
          "Private mail",
          "Mobile",
          "First day",
          "Last day",
          "Payroll group");

  List<String> cells() {
    return List.of(
        staffNo,
        familyName,
        givenName,
        job,
        unit,
        island,
        lineManager,
        contract,
        privateMail,
        mobile,
        firstDay,
        lastDay,
        "M1");
  }

  String name() {
    return givenName + " " + familyName;
  }

  HrRow named(String givenName, String familyName) {
    return new HrRow(
        staffNo,
        familyName,
        givenName,
        job,
        unit,
        island,
        lineManager,
        contract,
        privateMail,
        mobile,
        firstDay,
        lastDay);
  }

  HrRow moved(String unit, String contract) {
    return new HrRow(
        staffNo,
        familyName,
        givenName,
        job,
        unit,
        island,
        lineManager,
        contract,
        privateMail,
        mobile,
        firstDay,
        lastDay);
  }

  HrRow under(String lineManager) {
    return new HrRow(
        staffNo,
        familyName,
        givenName,
        job,
        unit,
        island,
        lineManager,
        contract,
        privateMail,
        mobile,
        firstDay,
        lastDay);
  }

  HrRow until(String lastDay) {
    return new HrRow(
        staffNo,
        familyName,
        givenName,
        job,
        unit,
        island,
        lineManager,
        contract,
        privateMail,
        mobile,
        firstDay,
        lastDay);
  }

  HrRow reachedBy(String privateMail, String mobile) {
    return new HrRow(
        staffNo,
        familyName,
        givenName,
        job,
        unit,
        island,
        lineManager,
        contract,
        privateMail,
        mobile,
        firstDay,
        lastDay);
  }
}
