-- What is sent to us over SCIM, as it was sent, until a delivery is made of it ------------------------------
-- The hash of the token with which a feed's sender shows who it is.
alter table feed add column token varchar(64);
create unique index feed_token on feed (token);

create sequence pushed_seq;

create table pushed (
  id varchar(36) primary key,
  source varchar(60) not null,
  kind varchar(10) not null,
  -- What must be the sender's only one, folded; none once it is deleted.
  unique_name varchar(400),
  external_id varchar(400),
  -- Under which its source knows the person, and before that was changed.
  source_key varchar(400) not null,
  former_key varchar(400),
  body varchar,
  deleted boolean not null,
  -- Grows with every write to any of a source: what is beyond a feed's mark waits.
  number bigint not null,
  created_at timestamp(6) with time zone not null,
  edited_at timestamp(6) with time zone not null,
  version bigint not null
);
create unique index pushed_name on pushed (source, kind, unique_name);
create unique index pushed_external on pushed (source, kind, external_id);
create index pushed_number on pushed (source, number);
create index pushed_key on pushed (source, source_key);
create index pushed_kind on pushed (source, kind, deleted, id);

create table pushed_member (
  group_id varchar(36) not null,
  member_id varchar(36) not null,
  source varchar(60) not null,
  -- Taken out of the group again.
  gone boolean not null,
  number bigint not null,
  primary key (group_id, member_id)
);
create index pushed_member_number on pushed_member (source, number);
create index pushed_member_of on pushed_member (member_id);

-- One index for the pages of a set and for its counts: each one more is paid for by every change -----------
drop index change_counted;
drop index change_in_set;
create index change_in_set on change (change_set_id, state, person_id, id, application, kind, renames);
