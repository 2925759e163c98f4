-- When a file was written, as its sender says; an older one than the last is stopped --------------------
alter table import add column written_at timestamp(6) with time zone;
create index import_source on import (source, id);
