-- Of which last day of a person their sponsor was told.
create table end_warning (
  person_id bigint primary key,
  end_date date not null
);
create index person_ends on person (end_date, id);
