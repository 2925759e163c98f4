package ebb.service;

import ebb.store.Database;
import ebb.store.PersonalData;
import ebb.store.SecretBox;
import ebb.store.applications.AccountUses;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.Drifts;
import ebb.store.applications.GroupMarks;
import ebb.store.applications.Groups;
import ebb.store.applications.Holders;
import ebb.store.applications.StillNeededs;
import ebb.store.applications.SyncRuns;
import ebb.store.applications.WaysFound;
import ebb.store.changes.Attempts;
import ebb.store.changes.ChangeQueue;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.departures.AutomaticReplies;
import ebb.store.departures.Departures;
import ebb.store.departures.HandoverItems;
import ebb.store.departures.Successors;
import ebb.store.feeds.Feeds;
import ebb.store.imports.Imports;
import ebb.store.imports.LinkedRows;
import ebb.store.imports.Units;
import ebb.store.journal.Journal;
import ebb.store.notices.Notices;
import ebb.store.operators.Answered;
import ebb.store.operators.Operators;
import ebb.store.operators.SignIns;
import ebb.store.operators.Tokens;
import ebb.store.people.EmergencyStops;
import ebb.store.people.EndWarnings;
import ebb.store.people.Grants;
import ebb.store.people.Holds;
import ebb.store.people.LoginSchemes;
import ebb.store.people.Logins;
import ebb.store.people.Oddities;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.PeopleLists;
import ebb.store.people.Sources;
import ebb.store.people.StoredConflicts;
import ebb.store.people.Suspensions;
import ebb.store.people.TechnicalIdentities;
import ebb.store.push.Resources;
import ebb.store.rules.Rules;
import ebb.store.settings.Settings;
import ebb.store.turns.Turns;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.flyway.autoconfigure.FlywayMigrationInitializer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The database and its features as beans. */
@Configuration
class StoreBeans {
  /** The migration is a parameter so that the schema is in place before anything reads it. */
  @Bean
  Database database(DataSource dataSource, FlywayMigrationInitializer migrated) {
    return Database.open(
        dataSource,
        Stream.of(
                People.ENTITIES,
                Imports.ENTITIES,
                Feeds.ENTITIES,
                Turns.ENTITIES,
                Resources.ENTITIES,
                Applications.ENTITIES,
                Rules.ENTITIES,
                ChangeSets.ENTITIES,
                Departures.ENTITIES,
                Journal.ENTITIES,
                Notices.ENTITIES,
                Operators.ENTITIES,
                Settings.ENTITIES)
            .flatMap(List::stream)
            .toArray(Class<?>[]::new));
  }

  @Bean
  SecretBox secretBox(@Value("${ebb.home}") Path home) throws IOException {
    return SecretBox.ofFile(home.resolve("secret.key"));
  }

  @Bean
  Journal journal(SecretBox secretBox) {
    return new Journal(secretBox);
  }

  @Bean
  People people() {
    return new People();
  }

  @Bean
  PeopleLists peopleLists() {
    return new PeopleLists();
  }

  @Bean
  TechnicalIdentities technicalIdentities() {
    return new TechnicalIdentities();
  }

  @Bean
  Sources sources() {
    return new Sources();
  }

  @Bean
  OwnAttributes ownAttributes() {
    return new OwnAttributes();
  }

  @Bean
  StoredConflicts conflicts() {
    return new StoredConflicts();
  }

  @Bean
  Logins logins() {
    return new Logins();
  }

  @Bean
  LoginSchemes loginSchemes() {
    return new LoginSchemes();
  }

  @Bean
  Grants grants() {
    return new Grants();
  }

  @Bean
  Units units(LinkedRows rows, Imports imports, Sources sources) {
    return new Units(rows, imports, sources);
  }

  @Bean
  GroupMarks groupMarks() {
    return new GroupMarks();
  }

  @Bean
  Holders holders() {
    return new Holders();
  }

  @Bean
  Oddities oddities() {
    return new Oddities();
  }

  @Bean
  EndWarnings endWarnings() {
    return new EndWarnings();
  }

  @Bean
  Successors successors() {
    return new Successors();
  }

  @Bean
  Suspensions suspensions() {
    return new Suspensions();
  }

  @Bean
  StillNeededs stillNeededs() {
    return new StillNeededs();
  }

  @Bean
  AccountUses accountUses() {
    return new AccountUses();
  }

  @Bean
  WaysFound waysFound() {
    return new WaysFound();
  }

  @Bean
  EmergencyStops emergencyStops() {
    return new EmergencyStops();
  }

  @Bean
  PersonalData personalData() {
    return new PersonalData();
  }

  @Bean
  Holds holds() {
    return new Holds();
  }

  @Bean
  LinkedRows linkedRows() {
    return new LinkedRows();
  }

  @Bean
  Feeds feeds() {
    return new Feeds();
  }

  @Bean
  Turns turns() {
    return new Turns();
  }

  @Bean
  Resources resources() {
    return new Resources();
  }

  @Bean
  Imports imports() {
    return new Imports();
  }

  @Bean
  Applications applications() {
    return new Applications();
  }

  @Bean
  Rules rules() {
    return new Rules();
  }

  @Bean
  Accounts accounts() {
    return new Accounts();
  }

  @Bean
  Groups groups() {
    return new Groups();
  }

  @Bean
  SyncRuns syncRuns() {
    return new SyncRuns();
  }

  @Bean
  Drifts drifts() {
    return new Drifts();
  }

  @Bean
  ChangeSets changeSets() {
    return new ChangeSets();
  }

  @Bean
  ChangeQueue changeQueue() {
    return new ChangeQueue();
  }

  @Bean
  Attempts attempts() {
    return new Attempts();
  }

  @Bean
  Changes changes() {
    return new Changes();
  }

  @Bean
  Departures departures() {
    return new Departures();
  }

  @Bean
  AutomaticReplies automaticReplies() {
    return new AutomaticReplies();
  }

  @Bean
  HandoverItems handoverItems() {
    return new HandoverItems();
  }

  @Bean
  Notices notices() {
    return new Notices();
  }

  @Bean
  Operators operators() {
    return new Operators();
  }

  @Bean
  Tokens tokens() {
    return new Tokens();
  }

  @Bean
  SignIns signIns() {
    return new SignIns();
  }

  @Bean
  Answered answered() {
    return new Answered();
  }

  @Bean
  Settings settings() {
    return new Settings();
  }
}
