-- When accounts were last used by their owners, as their applications said.
create table account_use (
  account_id bigint primary key,
  application varchar(60) not null,
  signed_in_at timestamp(6) with time zone,
  used_at timestamp(6) with time zone,
  first_asked_at timestamp(6) with time zone not null,
  asked_at timestamp(6) with time zone not null,
  -- the sign-in, or when it was first asked about where there never was one
  idle_since timestamp(6) with time zone not null
);
create index account_use_idle on account_use (application, idle_since, account_id);
