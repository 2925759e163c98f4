-- A rule has several seats to choose from.
update rule set body = regexp_replace(body, '"seat":"([^"]*)"', '"seats":[{"seat":"$1","condition":null}]');
update rule_edit set body = regexp_replace(body, '"seat":"([^"]*)"', '"seats":[{"seat":"$1","condition":null}]'),
  before = regexp_replace(before, '"seat":"([^"]*)"', '"seats":[{"seat":"$1","condition":null}]');
-- What could not be computed for a person; null where all could.
alter table person add column unclear varchar;

