-- A series that is over on purpose: its check was deleted, or somebody took it off. What it measured stays; nothing watches it any
-- more, until it is heard again.
alter table series add column ended_at timestamptz;
create index series_ended on series (id) where ended_at is not null;
