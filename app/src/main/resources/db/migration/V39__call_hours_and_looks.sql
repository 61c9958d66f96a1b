-- In which hours a team may be called, by the tier of what is in trouble; where nothing is said, at any time.
create table call_hours (
    team_id    bigint   not null references team,
    tier       smallint not null check (tier between 1 and 4),
    days       int[]    not null check (cardinality(days) > 0),
    hours_from time     not null,
    hours_to   time     not null,
    primary key (team_id, tier)
);

-- What a text message says of a case; the words of a mail have their own.
alter table call_out_wording add column brief text not null default '{told.as}{case.headline} (case {case.number})'
    check (length(brief) between 1 and 300);
alter table delivery add column brief text not null default '';

-- What is new since somebody was here last is counted with each look at the shift.
create index work_case_opened on work_case (opened_at);
create index case_entry_reopened on case_entry (at) where kind = 'reopened';

-- One error that shows on several interfaces may be one trouble.
alter table sorting_rule drop constraint sorting_rule_fold_by_check;
alter table sorting_rule add constraint sorting_rule_fold_by_check check (fold_by in ('FAMILY', 'SHARED_FAMILY', 'RULE', 'BUSINESS_KEY'));

-- Not everybody wishes to hear that windows begin and end.
alter table call_out_wish add column windows boolean not null default true;
