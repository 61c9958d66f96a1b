-- Messages are stored by the thousand, and their ids come from these tables, out of which nothing is ever taken: each of them need not
-- be looked up again, row by row. Readings have it so from the start.
alter table failed_message
    drop constraint failed_message_component_id_fkey,
    drop constraint failed_message_feed_id_fkey,
    drop constraint failed_message_family_id_fkey,
    drop constraint failed_message_rule_id_fkey;
