ALTER TABLE shop_settings ADD first_things_away boolean NOT NULL DEFAULT FALSE;

ALTER TABLE shop_settings ADD jobs jsonb NOT NULL DEFAULT '["Cleaning","Tooling","Training"]';

ALTER TABLE shop_settings ADD layout jsonb NOT NULL DEFAULT '{"walls":[],"doors":[]}';

ALTER TABLE shop_settings ADD racks jsonb NOT NULL DEFAULT '[{"name":"A","shelves":5,"trays":12},{"name":"B","shelves":5,"trays":12},{"name":"C","shelves":5,"trays":12},{"name":"D","shelves":5,"trays":12}]';

ALTER TABLE shop_settings ADD storage_free_days integer NOT NULL DEFAULT 7;

ALTER TABLE shop_settings ADD storage_per_day numeric NOT NULL DEFAULT 0.0;

ALTER TABLE reports ADD sent_to text NOT NULL DEFAULT '';

ALTER TABLE money_papers ADD sent_as character varying(40);

ALTER TABLE builds_decisions ADD takes_out jsonb NOT NULL DEFAULT '[]';

ALTER TABLE builds ADD left_on date;

ALTER TABLE builds ADD notice_on date;

update builds set station_id = null where status in ('Closed', 'Withdrawn');

CREATE TABLE labour_shop_time (
    id uuid NOT NULL,
    person_id uuid NOT NULL,
    job character varying(60) NOT NULL,
    start timestamp with time zone NOT NULL,
    stop timestamp with time zone,
    note text NOT NULL,
    void_why text,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_labour_shop_time PRIMARY KEY (id),
    CONSTRAINT fk_labour_shop_time_shop_people_person_id FOREIGN KEY (person_id) REFERENCES shop_people (id) ON DELETE RESTRICT
);

CREATE INDEX ix_labour_shop_time_person_id_start ON labour_shop_time (person_id, start);

CREATE UNIQUE INDEX ix_labour_shop_time_seq ON labour_shop_time (seq);

CREATE UNIQUE INDEX one_running_shop_time ON labour_shop_time (person_id) WHERE stop is null;
