-- Until when an account that is to be removed can still be restored.
alter table departure_account add column restorable_until date;
