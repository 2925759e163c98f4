-- What went over the wire for each change, try by try; secrets are never among it.
create table attempt (
  change_id bigint not null,
  number int not null,
  asked_at timestamp(6) with time zone not null,
  answered_at timestamp(6) with time zone not null,
  outcome varchar(20) not null,
  exchanges varchar not null,
  primary key (change_id, number)
);

alter table application add column paused_by varchar(100);
alter table application add column paused_why varchar(500);
alter table application add column paused_at timestamp(6) with time zone;

-- They are asked anew what they can do: it is said in other words now.
update application set capabilities = null;
