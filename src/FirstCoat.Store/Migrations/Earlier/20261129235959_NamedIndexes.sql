create index if not exists panels_against_a_rule on survey_panel_events (build_id) where flag is not null;

create index if not exists hours_against_a_rule on labour_entries (build_id) where flag is not null;

create index if not exists hours_of_a_day on labour_entries (start);

create index if not exists changes_of_a_time on access_audit (at);
