-- Who was told, where that is a person; and how they may take the case, or say that they cannot, without logging in.
alter table delivery add column person_id bigint references person;

create table call_out_link (
    -- Of the code that stands in the mail and nowhere else.
    hash        bytea primary key,
    delivery_id uuid        not null references delivery on delete cascade,
    made_at     timestamptz not null,
    answer      text check (answer in ('TAKEN', 'CANNOT', 'QUIET')),
    answered_at timestamptz
);
create index call_out_link_by_delivery on call_out_link (delivery_id);

-- Critical cases of which all who can be told were told, and nobody took it.
create table call_out_unheard (
    case_id bigint primary key references work_case,
    since   timestamptz not null
);
