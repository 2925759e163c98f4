-- Orders that keep people out of applications for a time; numbered as grants are.
create table suspension (
  id bigint primary key,
  person_id bigint not null,
  reason varchar(20) not null,
  note varchar,
  from_date date not null,
  until_date date,
  applications varchar not null,
  review_date date,
  discreet boolean not null,
  ordered_by varchar not null,
  cause bigint not null,
  ended_by bigint
);
create index suspension_of on suspension (person_id, ended_by);
create index suspension_list on suspension (ended_by, id);
create index suspension_cause on suspension (cause);

-- When the application of a suspended account was asked which ways in are open, and is to be again.
create table way_look (
  account_id bigint primary key,
  next_look timestamp(6) with time zone not null,
  asked_at timestamp(6) with time zone,
  sessions int not null,
  problem varchar
);
create index way_look_due on way_look (next_look, account_id);

-- Ways in that were found open at the last look.
create table way_in (
  account_id bigint not null,
  way_id varchar not null,
  kind varchar not null,
  what varchar not null,
  found_at timestamp(6) with time zone not null,
  waived_by varchar,
  waived_at timestamp(6) with time zone,
  reason varchar,
  primary key (account_id, way_id)
);

-- Whether an operator sees why somebody is suspended where that is discreet.
alter table operator add column discreet boolean not null default false;
