-- How logins are made; one that was in force is kept, as names were made by it.
create table login_scheme (
  number int primary key,
  body varchar not null,
  set_by varchar(200) not null,
  set_at timestamp(6) with time zone not null
);
alter table login_name add column scheme int default 0 not null;
