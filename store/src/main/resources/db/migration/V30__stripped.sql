-- When what is personal was taken out of an account that stays suspended.
alter table account add column stripped_at timestamp(6) with time zone;

-- Departures end with a deletion, or with that.
alter table departure_account alter column deletion_asked rename to end_asked;

-- Whom somebody answers for.
create index person_manager on person (manager_id);
