-- Wrong passwords are counted in memory, before they are looked at.
drop table login_failure;

-- Devices on which somebody has logged in: what others try elsewhere does not slow them down.
create table known_device (
    token_hash bytea       primary key,
    person_id  bigint      not null references person (id) on delete cascade,
    last_used  timestamptz not null
);
create index known_device_by_person on known_device (person_id);

-- A session ends with the password that it began with.
alter table person add column password_version int not null default 1;

create function person_changes() returns trigger language plpgsql as $$
begin
    if new.password_hash <> old.password_hash then
        new.password_version := old.password_version + 1;
    end if;
    return new;
end $$;
create trigger person_changes before update on person for each row execute function person_changes();

-- Whoever changes a person, in whatever way: all nodes hear of it.
create function person_changed() returns trigger language plpgsql as $$
begin
    perform pg_notify('morvet', 'database people ');
    return null;
end $$;
create trigger person_changed after insert or update or delete on person for each statement execute function person_changed();
