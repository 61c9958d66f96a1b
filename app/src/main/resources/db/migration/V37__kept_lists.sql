-- Lists of cases that somebody looks at again and again.
create table case_filter (
    person_id bigint not null references person,
    name      text   not null check (length(name) between 1 and 40),
    address   text   not null check (length(address) <= 500),
    primary key (person_id, name)
);

-- Whose rota says who has the shift, and from when to when where the day is not divided.
alter table shift_plan add column team_id bigint references team;
