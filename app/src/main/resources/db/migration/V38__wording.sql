-- How people are told of a case, by how bad it is; what is not worded is told in the words that Morvet has.
create table call_out_wording (
    severity text primary key check (severity in ('any', 'notice', 'warning', 'critical')),
    subject  text not null check (length(subject) between 1 and 300),
    body     text not null check (length(body) between 1 and 8000),
    version  int  not null default 1
);

-- The same words as HTML; empty where they are made of the text as they are sent.
alter table delivery add column html text not null default '';

-- Replies that have become notes, so that none does twice; by a hash of what the mail is called.
create table reply_taken (
    mail bytea       primary key,
    at   timestamptz not null
);

-- What is answered from outside names what it was told by the name that it has there.
create index delivery_by_outside on delivery (connection_id, outside_id) where outside_id <> '';
