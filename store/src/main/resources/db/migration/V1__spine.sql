-- Sources and what they say of people -------------------------------------------------------------
create sequence person_seq;
create sequence assertion_seq cache 1000;
create sequence grant_seq;
create sequence hold_seq;

create table source (
  name varchar(60) primary key,
  source_rank int not null,
  kind varchar(20) not null,
  mapping varchar,
  version bigint not null
);

-- The person as resolved: what lists sort, filter and show. Written only when something changed.
create table person (
  id bigint primary key,
  display_name varchar(400) not null,
  sort_name varchar(400) not null,
  match_key varchar(400) not null,
  login varchar(64),
  department varchar(200),
  user_type varchar(60),
  employee_number varchar(60),
  manager_id bigint,
  start_date date,
  end_date date,
  attributes varchar not null,
  wakes_at timestamp(6) with time zone,
  version bigint not null
);
create index person_sort on person (sort_name, id);
create index person_match on person (match_key);
create index person_wakes on person (wakes_at, id);
create index person_department on person (department, sort_name, id);

-- Every state in which a source left its assertions of a person; the current one has no end.
create table assertion (
  id bigint primary key,
  person_id bigint not null,
  source varchar(60) not null,
  asserted varchar not null,
  cause bigint not null,
  since timestamp(6) with time zone not null,
  ended_by bigint
);
create index assertion_person on assertion (person_id, ended_by);
create index assertion_cause on assertion (cause);

create table source_key (
  source varchar(60) not null,
  row_key varchar(200) not null,
  person_id bigint not null,
  row_hash varchar(32),
  primary key (source, row_key)
);
create index source_key_person on source_key (person_id);

create table given (
  id bigint primary key,
  person_id bigint not null,
  application varchar(60) not null,
  group_name varchar(200) not null,
  reason varchar(1000) not null,
  from_date date not null,
  until_date date,
  cause bigint not null,
  ended_by bigint
);
create index given_person on given (person_id);

create table hold (
  id bigint primary key,
  person_id bigint not null,
  reason varchar(1000) not null,
  set_by varchar(100) not null,
  until_date date,
  lifted_at timestamp(6) with time zone
);
create index hold_person on hold (person_id);

-- Unique names; one that was given up still belongs to its person and is given to nobody else.
create table login_name (
  namespace varchar(60) not null,
  name varchar(64) not null,
  person_id bigint not null,
  is_current boolean not null,
  since timestamp(6) with time zone not null,
  primary key (namespace, name)
);
create index login_name_person on login_name (person_id);

-- Who must be computed again when a person changes, beyond that person.
create table fact_read (
  fact_person_id bigint not null,
  reader_id bigint not null,
  primary key (fact_person_id, reader_id)
);
create index fact_read_reader on fact_read (reader_id);

-- Imports -----------------------------------------------------------------------------------------
create sequence import_seq;

create table import (
  id bigint primary key,
  source varchar(60) not null,
  file varchar(400) not null,
  sha256 varchar(64) not null,
  complete boolean not null,
  stage varchar(20) not null,
  counts varchar not null,
  change_set_id bigint,
  created_by varchar(100) not null,
  created_at timestamp(6) with time zone not null
);

create table import_row (
  import_id bigint not null,
  line bigint not null,
  verdict varchar(20) not null,
  row_key varchar(200),
  person_id bigint,
  row_values varchar not null,
  problems varchar not null,
  resembles varchar not null,
  answer varchar(60),
  primary key (import_id, line)
);

create table import_missing (
  import_id bigint not null,
  row_key varchar(200) not null,
  person_id bigint not null,
  decision varchar(20) not null,
  primary key (import_id, row_key)
);

-- Applications and accounts -----------------------------------------------------------------------
create sequence account_seq;

create table application (
  name varchar(60) primary key,
  kind varchar(20) not null,
  settings varchar not null,
  secret varchar,
  capabilities varchar,
  problem varchar,
  checked_at timestamp(6) with time zone,
  synced_at timestamp(6) with time zone,
  version bigint not null
);

create table account (
  id bigint primary key,
  application varchar(60) not null,
  remote_id varchar(300),
  person_id bigint,
  level varchar(20) not null,
  observed varchar not null,
  grounds varchar not null,
  closing boolean not null,
  seen_at timestamp(6) with time zone not null,
  version bigint not null
);
create unique index account_remote on account (application, remote_id);
create index account_person on account (person_id);

create table rule (
  name varchar(60) primary key,
  application varchar(60) not null,
  body varchar not null,
  version bigint not null
);

-- Changes -----------------------------------------------------------------------------------------
create sequence change_set_seq;
create sequence change_seq cache 1000;
create sequence input_seq cache 1000;

create table change_set (
  id bigint primary key,
  cause varchar(20) not null,
  title varchar(400) not null,
  state varchar(20) not null,
  takes_back bigint,
  taken_back_by bigint,
  stops varchar not null,
  created_by varchar(100) not null,
  created_at timestamp(6) with time zone not null,
  released_by varchar(100),
  released_at timestamp(6) with time zone,
  version bigint not null
);

create table input (
  id bigint primary key,
  change_set_id bigint not null,
  person_id bigint not null,
  kind varchar(20) not null,
  body varchar not null,
  applied boolean not null
);
create index input_set on input (change_set_id, applied, person_id, id);

create table change (
  id bigint primary key,
  change_set_id bigint not null,
  person_id bigint not null,
  application varchar(60) not null,
  account_id bigint,
  kind varchar(20) not null,
  state varchar(20) not null,
  due timestamp(6) with time zone not null,
  lease_until timestamp(6) with time zone,
  open_needs int not null,
  attempts int not null,
  edits varchar not null,
  group_name varchar(200),
  ground varchar(400) not null,
  usable boolean not null,
  problem varchar,
  asked_at timestamp(6) with time zone,
  seen_at timestamp(6) with time zone,
  version bigint not null
);
create index change_queue on change (application, state, open_needs, due, id);
create index change_in_set on change (change_set_id, state, application, id);
create index change_person on change (person_id, id);

create table change_need (
  change_id bigint not null,
  needs_id bigint not null,
  primary key (needs_id, change_id)
);
create index change_need_of on change_need (change_id);

-- Departures --------------------------------------------------------------------------------------
create sequence departure_seq;
create sequence departure_account_seq;

create table departure (
  id bigint primary key,
  person_id bigint not null,
  closing boolean not null,
  state varchar(20) not null,
  last_day date not null,
  recipient_id bigint,
  reason varchar(400) not null,
  started_at timestamp(6) with time zone not null,
  ended_at timestamp(6) with time zone,
  version bigint not null
);
create index departure_person on departure (person_id);
create index departure_state on departure (state, id);

create table departure_account (
  id bigint primary key,
  departure_id bigint not null,
  account_id bigint not null,
  application varchar(60) not null,
  delete_from date not null,
  sheet varchar,
  references_found varchar,
  handover varchar(20) not null,
  transfer_id varchar(200),
  handover_attempt int not null,
  proven_at timestamp(6) with time zone,
  problem varchar,
  waivers varchar not null,
  deletion_asked boolean not null,
  next_look timestamp(6) with time zone not null,
  version bigint not null
);
create index departure_account_of on departure_account (departure_id);
create index departure_account_account on departure_account (account_id);

create table handover_item (
  departure_account_id bigint not null,
  item_id varchar(200) not null,
  kind varchar(60) not null,
  name varchar(1000) not null,
  bytes bigint not null,
  sha256 varchar(64) not null,
  transferable boolean not null,
  primary key (departure_account_id, item_id)
);

-- Notices and asks --------------------------------------------------------------------------------
create sequence notice_seq;

create table notice (
  id bigint primary key,
  person_id bigint not null,
  kind varchar(20) not null,
  recipient varchar(320),
  subject varchar(400) not null,
  state varchar(20) not null,
  due timestamp(6) with time zone not null,
  attempts int not null,
  problem varchar,
  created_at timestamp(6) with time zone not null,
  sent_at timestamp(6) with time zone,
  version bigint not null
);
create index notice_due on notice (state, due, id);
create index notice_person on notice (person_id, id);

create table ask (
  token_hash varchar(64) primary key,
  notice_id bigint not null,
  person_id bigint not null,
  kind varchar(20) not null,
  expires_at timestamp(6) with time zone not null,
  used_at timestamp(6) with time zone,
  tries int not null
);
create index ask_person on ask (person_id);

-- Journal -----------------------------------------------------------------------------------------
create sequence journal_seq cache 1000;

create table journal_entry (
  id bigint primary key,
  at timestamp(6) with time zone not null,
  actor varchar(100) not null,
  act varchar(1000) not null,
  person_id bigint,
  reason varchar(1000),
  commitment varchar(64)
);
create index journal_person on journal_entry (person_id, id);

create table journal_seal (
  entry_id bigint primary key,
  place bigint not null,
  seal varchar(64) not null
);
create unique index journal_seal_place on journal_seal (place);

-- Personal values, sealed under a key per person that can be destroyed.
create table journal_detail (
  entry_id bigint primary key,
  person_id bigint not null,
  body varchar not null
);

create table person_key (
  person_id bigint primary key,
  wrapped varchar not null
);

-- Operators, front door, settings -----------------------------------------------------------------
create sequence token_seq;

create table operator (
  name varchar(100) primary key,
  role varchar(20) not null,
  created_at timestamp(6) with time zone not null
);

create table token (
  id bigint primary key,
  operator varchar(100) not null,
  label varchar(100) not null,
  hash varchar(64) not null unique,
  created_at timestamp(6) with time zone not null,
  expires_at timestamp(6) with time zone,
  revoked_at timestamp(6) with time zone
);

create table answered (
  operator varchar(100) not null,
  idempotency_key varchar(200) not null,
  request_hash varchar(64) not null,
  status int,
  body varchar,
  location varchar(400),
  at timestamp(6) with time zone not null,
  primary key (operator, idempotency_key)
);

create table setting (
  name varchar(60) primary key,
  setting_value varchar(1000) not null
);
