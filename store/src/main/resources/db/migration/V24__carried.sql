-- What became of each thing an account owned.
alter table handover_item alter column item_id varchar(2000);
alter table handover_item add column state varchar(20) default 'OWNED' not null;
alter table handover_item add column there varchar(2000);
alter table handover_item add column place varchar(1000);
alter table handover_item add column problem varchar(4000);
alter table handover_item add column left_out varchar(1000);
alter table handover_item add column seen_attempt integer default 0 not null;
create index handover_item_state on handover_item (departure_account_id, state, kind);
