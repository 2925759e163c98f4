-- Whose the accounts of nobody may be, as it was last looked at; and of which kind that makes them.
alter table account add column likely varchar;
drop index account_stranger;
alter table account add column finding varchar(12) default 'NONE' not null;
update account set finding = 'UNLOOKED' where stranger;
update account set finding = 'LEFT_ALONE' where left_alone is not null and level <> 'GONE';
alter table account drop column stranger;

-- Whether an account looks as it did is known by its print; the index holds all that is read for that.
alter table account add column print_high bigint;
alter table account add column print_low bigint;
create index account_finding on account (application, finding, id, remote_id, level, print_high, print_low);

-- Of which kind a drift is, and whether something was done about it since.
alter table drift add column kind varchar(12) default 'DRIFTED' not null;
alter table drift add column look_again boolean default false not null;
create index drift_kind on drift (application, kind, person_id);
create index drift_person on drift (person_id);
create index drift_look_again on drift (look_again, application, person_id);

-- Values that differed, and how often each came back after it had been put right.
create table drifted_value (
  application varchar(60) not null,
  person_id bigint not null,
  attribute varchar(400) not null,
  since timestamp(6) with time zone not null,
  ended_at timestamp(6) with time zone,
  times integer not null,
  primary key (application, person_id, attribute)
);
create index drifted_value_person on drifted_value (person_id);
create index drifted_value_often on drifted_value (application, ended_at, times);

-- A login that was found in an application is kept, though no scheme would give it.
alter table login_name add column is_found boolean default false not null;

-- A grant may give an account and no group.
alter table given alter column group_name set null;

-- Whose an account is not, as somebody decided.
create table account_apart (
  application varchar(60) not null,
  remote_id varchar(300) not null,
  person_id bigint not null,
  primary key (application, remote_id, person_id)
);

-- How often findings became others by being looked at; pages that show them look again.
alter table application add column looks bigint default 0 not null;

-- Groups that mean nothing here, as somebody decided.
alter table app_group add column left_alone varchar;
