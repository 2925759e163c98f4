-- What answers for accounts whose owners have left, and how far that has come.
create table automatic_reply (
  departure_account_id bigint primary key,
  state varchar(20) not null,
  until date not null,
  problem varchar(4000),
  next_try timestamp with time zone not null
);
create index automatic_reply_due on automatic_reply (state, next_try);
