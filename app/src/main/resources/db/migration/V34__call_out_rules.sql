-- Who is told of what, by which way, in which steps: rules in order, the last of which takes every critical case that no other did.
create table call_out_rule (
    id      bigint generated always as identity primary key,
    place   int     not null,
    name    text    not null,
    body    jsonb   not null,
    -- The last one: it stays, whatever else there is.
    catches boolean not null default false,
    deleted boolean not null default false,
    version int     not null default 1
);
create unique index call_out_rule_that_catches on call_out_rule (catches) where catches;
insert into call_out_rule (place, name, catches, body)
values (1000000, 'Any other critical case', true,
        '{"when": "OPENED", "from": "CRITICAL", "over": true, "steps": [
           {"after": 0, "whom": "duty 0 0", "ways": ["TEXT", "MAIL"]}, {"after": 900, "whom": "duty 0 1", "ways": ["TEXT", "MAIL"]},
           {"after": 900, "whom": "duty 0 2", "ways": ["TEXT", "MAIL"]}, {"after": 900, "whom": "team 0", "ways": ["MAIL"]}]}');

-- What cases came to be, as far as call-outs ask: of a severity worse than before, or over (null).
create table case_turn (
    case_id  bigint      not null references work_case,
    at       timestamptz not null,
    severity text check (severity in ('NOTICE', 'WARNING', 'CRITICAL'))
);
create index case_turn_by_case on case_turn (case_id, at);
create index case_turn_by_time on case_turn (at);
-- Of what was before, as much as is known.
insert into case_turn (case_id, at, severity)
select id, opened_at, severity from work_case where opened_at > now() - interval '30 days' or state <> 'SETTLED';
insert into case_turn (case_id, at)
select id, coalesce(settled_at, over_since) from work_case
 where (state = 'SETTLED' or over_since is not null) and opened_at > now() - interval '30 days' and coalesce(settled_at, over_since) is not null;

-- A rule at work on what happened to a case.
create table call_out_course (
    id       bigint generated always as identity primary key,
    rule_id  bigint      not null references call_out_rule,
    case_id  bigint      not null references work_case,
    happened text        not null check (happened in ('OPENED', 'LATE', 'RETURNED', 'OVER')),
    at       timestamptz not null,
    -- Since when all who can be told were told, and nobody took it.
    unheard  timestamptz,
    ended_at timestamptz
);
create index call_out_course_running on call_out_course (case_id) where ended_at is null;

-- What a rule gathers until its digest is told.
create table call_out_digest (
    rule_id  bigint      not null references call_out_rule,
    case_id  bigint      not null references work_case,
    happened text        not null check (happened in ('OPENED', 'LATE', 'RETURNED', 'OVER')),
    severity text        not null check (severity in ('NOTICE', 'WARNING', 'CRITICAL')),
    at       timestamptz not null
);
create index call_out_digest_by_rule on call_out_digest (rule_id, at);

alter table delivery
    add column course_id bigint references call_out_course,
    add column step smallint,
    add column round smallint,
    -- Whoever was told, by a name that stays whatever their address is.
    add column who text,
    add column way text not null default 'MAIL' check (way in ('MAIL', 'TEXT', 'WEB', 'FILE', 'SYSLOG', 'DESK')),
    add column connection_id bigint references outside_connection,
    -- By which other ways it goes, each with its address, should this one fail.
    add column further text[] not null default '{}',
    -- What it is called where it was sent, so that what comes later changes it there.
    add column outside_id text not null default '',
    -- Whether it waits for what else the same person is told in the same minute, to go with it in one message.
    add column burst boolean not null default false,
    -- Of a rule that is tried.
    add column rule_id bigint references call_out_rule,
    drop constraint delivery_about_check,
    add constraint delivery_about_check check (about in ('OPENED', 'LATE', 'RETURNED', 'UNHEARD', 'EXPLAINS', 'OVER', 'WINDOW', 'VENDOR', 'DIGEST', 'SIGN', 'TEST')),
    drop constraint delivery_of_one,
    add constraint delivery_of_one check (num_nonnulls(case_id, window_id, component_id, rule_id) = 1);
create index delivery_by_course on delivery (course_id) where course_id is not null;
create index delivery_by_recipient on delivery (recipient, made_at);
create index delivery_by_person on delivery (person_id, made_at) where person_id is not null;

insert into call_out_course (rule_id, case_id, happened, at, unheard)
select (select id from call_out_rule where catches), d.case_id, 'OPENED', min(d.made_at), min(u.since)
  from delivery d left join call_out_unheard u on u.case_id = d.case_id
 where d.about = 'OPENED'
   and d.made_at > coalesce((select max(o.made_at) from delivery o where o.case_id = d.case_id and o.about = 'OVER'), '-infinity')
 group by d.case_id;
update delivery d
   set course_id = c.id, step = 0, round = 0,
       who = coalesce('person ' || d.person_id, 'team ' || d.team_id, 'mail ' || d.recipient)
  from call_out_course c
 where c.case_id = d.case_id and d.about = 'OPENED' and d.made_at >= c.at;
drop table call_out_unheard;

-- To whom a sign of life goes each minute, so that its absence tells that people cannot be called.
create table call_out_sign (
    only_one boolean primary key default true check (only_one),
    whom     text not null
);

-- A rule may hand a case off; then it was nobody.
alter table handoff alter column made_by drop not null;

-- What the desk said last: people of a team say here, too, how far a case is, and what the desk said before that is no news.
alter table handoff add column desk_state text;

-- Each try of a delivery, by whatever way.
create table delivery_try (
    delivery_id uuid        not null references delivery on delete cascade,
    at          timestamptz not null,
    way         text        not null,
    recipient   text        not null,
    -- Refused is what trying again does not help.
    outcome     text        not null check (outcome in ('TAKEN', 'FAILED', 'REFUSED')),
    words       text        not null,
    millis      bigint      not null
);
create index delivery_try_by_delivery on delivery_try (delivery_id, at);
create index delivery_try_by_outcome on delivery_try (way, outcome, at);
