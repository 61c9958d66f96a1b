-- By when somebody should have a case. It hangs on when the case opened, opened again, or turned worse, so it is kept as it was promised.
alter table work_case add column respond_by timestamptz;
update work_case c
   set respond_by = greatest(c.opened_at, (select max(e.at) from case_entry e where e.case_id = c.id and e.kind in ('reopened', 'returned')))
                    + interval '1 minute' * (case c.severity when 'CRITICAL' then array[15, 30, 60, 120]
                                                             when 'WARNING' then array[60, 120, 240, 480]
                                                             else array[480, 480, 1440, 1440] end)
                      [coalesce((select a.tier from component o join application a on a.id = o.application_id where o.id = c.component_id), 3)];
alter table work_case alter column respond_by set not null;
