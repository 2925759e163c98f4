-- People who are stopped in an emergency, until the stop is lifted.
create table emergency_stop (
  person_id bigint primary key,
  since timestamp(6) with time zone not null,
  ordered_by varchar(100) not null,
  reason varchar(1000) not null,
  change_set_id bigint not null
);
