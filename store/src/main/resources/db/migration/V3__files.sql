-- Files in any format -------------------------------------------------------------------------------
alter table import alter column source drop not null;
alter table import add column format varchar;
alter table import add column terms varchar default '{}' not null;
alter table import add column questions varchar default '[]' not null;
alter table import add column size bigint default 0 not null;
alter table import add column took_millis bigint;
update import set terms = '{"complete":' || lower(cast(complete as varchar)) || '}';
alter table import drop column complete;

alter table import_row add column texts varchar default '{}' not null;
alter table import_row add column edits varchar default '{}' not null;
-- The second index serves searching a preview for a key.
create index import_row_key on import_row (import_id, row_key);

-- What is wrong with refused rows, one line for each problem: counted by kind, and mended by kind.
create table import_problem (
  import_id bigint not null,
  line bigint not null,
  number int not null,
  code varchar(60) not null,
  heading varchar(200) not null,
  said varchar(200) not null,
  problem varchar not null,
  primary key (import_id, line, number)
);
create index import_problem_kind on import_problem (import_id, code, heading, said, line);

-- How a source's mapping was before: who changed it, and when.
create table source_mapping (
  source varchar(60) not null,
  version bigint not null,
  mapping varchar not null,
  created_by varchar(100) not null,
  created_at timestamp(6) with time zone not null,
  primary key (source, version)
);

-- The organisation's own attributes -----------------------------------------------------------------
create table attribute (
  name varchar(60) primary key,
  type varchar(20) not null,
  required boolean not null,
  fallback varchar(1000),
  searchable boolean not null,
  by_hand boolean not null,
  choices varchar not null,
  version bigint not null
);

-- Values of searchable ones, folded: what filters look through.
create table person_value (
  person_id bigint not null,
  name varchar(60) not null,
  folded varchar(1000) not null,
  primary key (person_id, name)
);
create index person_value_found on person_value (name, folded, person_id);

-- Releases in parts: the people of the part under way.
create table release_part (
  change_set_id bigint not null,
  person_id bigint not null,
  primary key (change_set_id, person_id)
);

-- A run stops by itself where too much of it is refused; so many somebody let pass already.
alter table change_set add column failures_let bigint default 0 not null;

-- Sets are gone through person by person.
drop index change_in_set;
create index change_in_set on change (change_set_id, state, person_id, id);
