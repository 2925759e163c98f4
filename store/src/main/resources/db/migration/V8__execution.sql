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

-- What is sealed under a person's key lies with the entry: it goes when the key is destroyed.
alter table journal_entry add column details varchar;
update journal_entry e set details = (select d.body from journal_detail d where d.entry_id = e.id);
drop table journal_detail;
