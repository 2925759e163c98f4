-- Readings of applications, and how far the last one of each came.
create sequence sync_run_seq;

create table sync_run (
  id bigint primary key,
  application varchar(60) not null,
  begun_by varchar(100) not null,
  begun_at timestamp(6) with time zone not null,
  ended_at timestamp(6) with time zone,
  whole boolean not null,
  body varchar not null
);
create index sync_run_application on sync_run (application, id);

alter table application add column sync_mark varchar(4000);

-- Accounts that are left as they are, with who said so and why.
alter table account add column left_alone varchar;

-- Whether an account is there, nobody's, and not left alone: such are listed and counted.
alter table account add column stranger boolean default false not null;
update account set stranger = true where person_id is null and level <> 'GONE';
create index account_stranger on account (application, stranger, id);
create index account_level on account (application, level);

-- What accounts say of their groups, by group; given are those in which Ebb put them.
create table account_group (
  account_id bigint not null,
  application varchar(60) not null,
  name varchar(400) not null,
  given boolean not null,
  primary key (account_id, name)
);
create index account_group_name on account_group (application, name, account_id);

create table app_group (
  application varchar(60) not null,
  remote_id varchar(300) not null,
  name varchar(400) not null,
  body varchar not null,
  primary key (application, remote_id)
);
create index app_group_name on app_group (application, name);

-- People whose account, or whose missing account, was not as it should be when last looked at.
create table drift (
  application varchar(60) not null,
  person_id bigint not null,
  since timestamp(6) with time zone not null,
  primary key (application, person_id)
);
