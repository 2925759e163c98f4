-- Whether an account of a departure is being looked at now, under the lease of its next look ---------
alter table departure_account add column is_claimed boolean default false not null;

-- Files linked to a list of people: units, groups, memberships, pictures -------------------------------
create table import_linked (
  import_id bigint not null,
  file varchar(20) not null,
  line bigint not null,
  verdict varchar(20) not null,
  row_key varchar(200) not null,
  says varchar not null,
  problems varchar not null,
  primary key (import_id, file, line)
);
create index import_linked_verdict on import_linked (import_id, file, verdict, line);
create index import_linked_key on import_linked (import_id, row_key);

-- Which source gave a group; what a hand gave is no source's to end.
alter table given add column source varchar(60) default 'hand' not null;
create index given_source on given (source, ended_by, person_id);

-- What a notice to an operator leads to: a page of the console --------------------------------------
alter table notice add column about varchar(200);

-- What a set amounts to is counted at every look at it: from the index, as its rows are wide -----------
create index change_counted on change (change_set_id, application, kind, state);
