-- Failed messages whose errors are the same once numbers, ids and times are taken out.
create table failure_family (
    id          bigint generated always as identity primary key,
    fingerprint text not null unique,
    skeleton    text not null,
    first_seen  timestamptz not null
);
alter table failed_message add column family_id bigint references failure_family (id);
create index failed_message_by_family on failed_message (family_id, at);
-- What was stored before families were; it is told its family in the background.
create index failed_message_without_family on failed_message (at) where family_id is null;
