package ebb.service.comparison;

import ebb.core.application.Equality;
import ebb.core.imports.Source;
import ebb.core.person.Assertions;
import ebb.store.applications.Account;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Function;

/** One of two populations that are compared. */
sealed interface Side {
  String name();

  /** How this side takes two values for the same. */
  Equality equalityOf(String attribute);

  /** What a side has of a person. */
  record Has(String calls, Map<String, List<String>> values) {}

  /**
   * @param accounts of the person, everywhere
   * @param asserted of the person, by all sources
   * @param key by which the source knows the person; empty for an application
   * @return empty if the side does not have the person
   */
  Optional<Has> of(List<Account> accounts, List<Assertions> asserted, String key);

  record OfApplication(String name, Function<String, Equality> equality) implements Side {
    @Override
    public Equality equalityOf(String attribute) {
      return equality.apply(attribute);
    }

    @Override
    public Optional<Has> of(List<Account> accounts, List<Assertions> asserted, String key) {
      return accounts.stream()
          .filter(account -> account.application().equals(name) && account.level().exists())
          .findFirst()
          .map(Account::observed)
          .map(
              observed ->
                  new Has(
                      observed.texts("userName").stream().findFirst().orElse(observed.id()),
                      observed.values()));
    }
  }

  record OfSource(Source source) implements Side {
    @Override
    public String name() {
      return source.name();
    }

    @Override
    public Equality equalityOf(String attribute) {
      return Equality.EXACT;
    }

    @Override
    public Optional<Has> of(List<Account> accounts, List<Assertions> asserted, String key) {
      return asserted.stream()
          .filter(one -> one.source().equals(source.name()) && !one.values().isEmpty())
          .findFirst()
          .map(Assertions::values)
          .map(
              said -> {
                var values = new TreeMap<String, List<String>>();
                said.forEach((attribute, one) -> values.put(attribute, List.of(one.value())));
                return new Has(key, values);
              });
    }
  }
}
