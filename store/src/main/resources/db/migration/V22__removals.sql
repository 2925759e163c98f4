-- An account that is off may be removed by order, and goes the way of a closing.
alter table departure add column kind varchar(20) not null default 'DEPARTURE';
update departure set kind = 'CLOSING' where closing;
alter table departure alter column kind drop default;
alter table departure drop column closing;

-- Whether an account that nobody signs in to is still needed, as it was asked and answered last.
create table still_needed (
  account_id bigint primary key,
  person_id bigint not null,
  application varchar(60) not null,
  asked_of varchar(320) not null,
  asked_by varchar(100) not null,
  asked_at timestamp(6) with time zone not null,
  until date not null,
  answer varchar(20) not null,
  answered_at timestamp(6) with time zone
);
create index still_needed_open on still_needed (answer, until, account_id);
create index still_needed_person on still_needed (person_id);
