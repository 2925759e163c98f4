-- When a file was written, as its sender says; an older one than the last is stopped --------------------
alter table import add column written_at timestamp(6) with time zone;
create index import_source on import (source, id);

-- Standing sources -------------------------------------------------------------------------------------
create sequence feed_run_seq;

create table feed (
  source varchar(60) primary key,
  origin varchar not null,
  timetable varchar not null,
  complete boolean not null,
  missing varchar(20) not null,
  state varchar(20) not null,
  secret varchar,
  -- What the other side said of the last delivery.
  mark varchar(2000),
  -- The import by which it was last tried out.
  tried_import_id bigint,
  problem varchar,
  problem_since timestamp(6) with time zone,
  version bigint not null
);

create table feed_run (
  id bigint primary key,
  source varchar(60) not null,
  cause varchar(20) not null,
  outcome varchar(20) not null,
  file varchar(400),
  import_id bigint,
  problem varchar,
  created_by varchar(100) not null,
  started_at timestamp(6) with time zone not null,
  ended_at timestamp(6) with time zone
);
create index feed_run_source on feed_run (source, id);
create index feed_run_outcome on feed_run (outcome, id);

-- The scheduler's own: when which feed is looked at next -------------------------------------------------
create table scheduled_tasks (
  task_name varchar(100) not null,
  task_instance varchar(100) not null,
  task_data blob,
  execution_time timestamp(6) with time zone not null,
  picked boolean not null,
  picked_by varchar(50),
  last_success timestamp(6) with time zone,
  last_failure timestamp(6) with time zone,
  consecutive_failures int,
  last_heartbeat timestamp(6) with time zone,
  version bigint not null,
  priority smallint,
  primary key (task_name, task_instance)
);
create index scheduled_tasks_due on scheduled_tasks (execution_time);

-- What people are looked up by when a row may be one of them: prints of names, addresses, numbers ---------
create table person_clue (
  clue bigint not null,
  person_id bigint not null,
  primary key (clue, person_id)
);
create index person_clue_of on person_clue (person_id);
drop index person_match;
alter table person drop column match_key;

-- What was decided after an import was released, as a set of its own ------------------------------------
alter table import add column answers_set_id bigint;
