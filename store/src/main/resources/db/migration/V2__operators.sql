-- How operators sign in, what they may do and for whom ---------------------------------------------
alter table operator add column password_hash varchar(400);
alter table operator add column second_factor varchar(400);
alter table operator add column second_factor_asked varchar(400);
alter table operator add column last_code bigint;
alter table operator add column units varchar default '[]' not null;
alter table operator add column kinds varchar default '[]' not null;
alter table operator add column person_id bigint;
alter table operator add column ended_at timestamp(6) with time zone;
alter table operator add column version bigint default 1 not null;

-- A token may do less than its operator.
alter table token add column role varchar(20);

-- Sign-ins of the console; only hashes of what the browser holds.
create table sign_in (
  hash varchar(64) primary key,
  operator varchar(100) not null,
  created_at timestamp(6) with time zone not null,
  used_at timestamp(6) with time zone not null,
  expires_at timestamp(6) with time zone not null
);
create index sign_in_operator on sign_in (operator);

-- One-time links with which operators choose a password.
create table operator_link (
  hash varchar(64) primary key,
  operator varchar(100) not null,
  expires_at timestamp(6) with time zone not null,
  used_at timestamp(6) with time zone
);
create index operator_link_operator on operator_link (operator);

create index import_set on import (change_set_id);

-- Lists of people ---------------------------------------------------------------------------------
-- Given name first, folded: what somebody types who looks for a person.
alter table person add column call_name varchar(400) default '' not null;
create index person_call on person (call_name, id);
create index person_login on person (login, id);
create index person_number on person (employee_number, id);
create index person_start on person (start_date, id);
create index person_end on person (end_date, id);
