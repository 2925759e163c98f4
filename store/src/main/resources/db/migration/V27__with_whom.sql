-- Who has what was handed over.
alter table handover_item add column recipient varchar(300);
