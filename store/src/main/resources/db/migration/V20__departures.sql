-- What the procedure said when a departure began, and what was said of it since.
alter table departure add column hand_over_from date;
update departure set hand_over_from = dateadd(day, 3, last_day);
alter table departure alter column hand_over_from set not null;
alter table departure add column asks_return boolean not null default false;
alter table departure add column not_returning varchar(500);
alter table departure add column paused varchar(500);

-- An account that is not deleted, as its application's policy says, and of which nothing is left to do.
alter table departure_account add column stays boolean not null default false;

-- Who gets what a person leaves behind, named ahead.
create table successor (
  person_id bigint primary key,
  successor_id bigint not null,
  named_by varchar(100) not null,
  named_at timestamp(6) with time zone not null
);

-- Of a kind, some may be handed over and some not.
update departure_account set sheet = regexp_replace(
  regexp_replace(sheet, '"transferable":true', '"uncovered":0'),
  '"count":([0-9]+),"bytes":([0-9]+),"transferable":false', '"count":$1,"bytes":$2,"uncovered":$1')
  where sheet is not null;
