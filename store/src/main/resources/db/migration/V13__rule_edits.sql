-- Edited rules come into force with the set that shows what follows from them.
create table rule_edit (
  set_id bigint not null,
  name varchar(200) not null,
  -- Null takes the rule away.
  body varchar,
  -- Of the rule when the edit began; 0 if there was none.
  version bigint not null,
  -- What the rule was before it came into force; null if there was none.
  before varchar,
  -- How many people somebody expects to be concerned; null where nobody said.
  expected bigint,
  in_force boolean default false not null,
  -- Whether everyone was looked at after that.
  is_settled boolean default false not null,
  primary key (set_id, name)
);
create index rule_edit_name on rule_edit (name, in_force);
