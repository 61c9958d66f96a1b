-- What an origin raised on one component before: how often it went together with other trouble, and how it was dealt with.
create index alert_on_component on alert (component_id, origin_kind, origin_id, raised_at);
