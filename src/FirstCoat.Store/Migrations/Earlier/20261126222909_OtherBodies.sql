CREATE TABLE survey_bodies (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    name text NOT NULL,
    year integer,
    seen_on date,
    held_until date,
    purchase numeric NOT NULL,
    freight numeric NOT NULL,
    zones jsonb NOT NULL,
    spans jsonb NOT NULL,
    identity text NOT NULL,
    decision_id uuid,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_survey_bodies PRIMARY KEY (id),
    CONSTRAINT fk_survey_bodies_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT
);

CREATE INDEX ix_survey_bodies_build_id ON survey_bodies (build_id);

CREATE UNIQUE INDEX ix_survey_bodies_seq ON survey_bodies (seq);
