-- Teams are told of windows, and all mails go one way: those about cases, about windows, and what is written to vendors.
alter table maintenance_window add column told_minutes int check (told_minutes >= 0);
alter table vendor_instance add column told_minutes int check (told_minutes >= 0);

-- What was told last of a time of a window, until the last of it was told.
create table window_told (
    window_id bigint      not null references maintenance_window,
    meant     timestamp   not null,
    said      text        not null check (said in ('COMES', 'MOVED', 'BEGINS', 'LASTS')),
    from_at   timestamptz not null,
    to_at     timestamptz not null,
    primary key (window_id, meant)
);

alter table delivery
    alter column case_id drop not null,
    alter column team_id drop not null,
    add column window_id bigint references maintenance_window,
    add column component_id bigint references component,
    add column by_id bigint references person,
    drop constraint delivery_about_check,
    add constraint delivery_about_check check (about in ('OPENED', 'OVER', 'WINDOW', 'VENDOR')),
    add constraint delivery_of_one check (num_nonnulls(case_id, window_id, component_id) = 1);
create index delivery_by_window on delivery (window_id, made_at) where window_id is not null;
create index delivery_by_component on delivery (component_id, made_at) where component_id is not null;
insert into delivery (id, component_id, by_id, about, recipient, subject, body, state, made_at, sent_at, first_try, next_try, failures, last_error)
select id, component_id, by_id, 'VENDOR', recipient, subject, body,
       case state when 'sent' then 'SENT' when 'waiting' then 'WAITING' else 'GIVEN_UP' end,
       at, case state when 'sent' then at end, case when failures > 0 or state = 'sent' then at end,
       case state when 'waiting' then at end, failures, why
  from vendor_ticket;
update scheduled_tasks set task_name = 'mail-sending' where task_name = 'vendor-ticket';
drop table vendor_ticket;
