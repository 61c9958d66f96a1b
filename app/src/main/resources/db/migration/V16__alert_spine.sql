-- What raised an alert, and what it is about, whichever sort of rule it was. The facts of an alert stand here alone.
alter table alert
    add column origin_kind text,
    add column origin_id   bigint,
    add column cause_id    bigint references component (id),
    add column topic       text,
    add column worst_words text,
    add column occasion    text not null default '',
    add column held        boolean not null default false;
alter table alert rename column group_key to fold_key;
alter table alert rename column series_id to subject_id;
alter table alert drop constraint alert_series_id_fkey;

update alert a
   set origin_kind = case when a.guard_id is not null then 'guard' when a.rule_id is not null then 'sorting rule' else 'run guard' end,
       origin_id   = coalesce(a.guard_id, a.rule_id, a.run_guard_id),
       subject_id  = case when a.rule_id is not null then a.family_id else a.subject_id end,
       topic       = case
                         when a.rule_id is not null and a.fold_key = 'r' then 'failures/rule ' || a.rule_id || '/everywhere'
                         when a.rule_id is not null then 'failures/' || a.family_id
                         when (select watched ->> 'measure' from guard g where g.id = a.guard_id) = 'failed_messages' then 'failures'
                     end,
       -- A case stands on the component that brings its trouble about.
       cause_id    = coalesce((select w.component_id from case_alert c join work_case w on w.id = c.case_id
                                where c.alert_id = a.id and a.run_guard_id is not null), a.component_id),
       worst_words = coalesce((select c.worst_words from case_alert c where c.alert_id = a.id), a.words);
update alert a
   set worst = c.worst
  from case_alert c
 where c.alert_id = a.id;
update alert a
   set occasion = r.occasion
  from run_alert r
 where a.run_guard_id = r.guard_id and a.component_id = r.component_id and a.cleared_at is null;

alter table alert
    alter column origin_kind set not null,
    alter column origin_id set not null,
    alter column cause_id set not null,
    alter column worst_words set not null,
    drop constraint alert_source,
    drop column guard_id,
    drop column rule_id,
    drop column run_guard_id,
    drop column family_id;
-- One alert that is up for what folds into one.
create unique index alert_up on alert (origin_kind, origin_id, fold_key) where cleared_at is null;
drop table run_alert;

-- A case is about a component and what tells its troubles apart.
alter table work_case
    add column topic       text,
    add column topic_since timestamptz;
update work_case w
   set topic_since = w.opened_at,
       topic = case
                   when w.rule_id is not null then 'failures/rule ' || w.rule_id || '/everywhere'
                   when w.family_id is not null then 'failures/' || w.family_id
                   when exists (select 1 from case_alert c join alert a on a.id = c.alert_id
                                 where c.case_id = w.id and a.topic = 'failures' and a.component_id = w.component_id) then 'failures'
               end;
alter table work_case
    alter column topic_since set not null,
    drop column family_id,
    drop column rule_id;

-- Of an alert, a case knows only that it belongs to it, and where it stood at settling.
alter table case_alert
    drop column guard_id,
    drop column rule_id,
    drop column run_guard_id,
    drop column family_id,
    drop column component_id,
    drop column level,
    drop column value,
    drop column worst,
    drop column raised_at,
    drop column cleared_at,
    drop column flaps,
    drop column words,
    drop column worst_words;
