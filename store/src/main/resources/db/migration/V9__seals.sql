-- Seals of many entries in one row, a line for each: its number, a blank, its seal. The place is that
-- of the first, so that two blocks cannot follow upon the same seal. Entries numbered up to
-- "settled" were in the chain already, or never came.
create table journal_block (
  place bigint primary key,
  entries int not null,
  last_entry bigint not null,
  settled bigint not null,
  links varchar(1000000) not null
);
create index journal_block_last on journal_block (last_entry, place);
insert into journal_block (place, entries, last_entry, settled, links)
  select place, 1, entry_id, 0, cast(entry_id as varchar) || ' ' || seal from journal_seal;
drop table journal_seal;
