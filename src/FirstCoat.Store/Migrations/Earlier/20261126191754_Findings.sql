ALTER TABLE shop_settings ADD delay_per_day numeric NOT NULL DEFAULT 0.0;

ALTER TABLE builds ADD history jsonb NOT NULL DEFAULT '[]';

CREATE TABLE survey_findings (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    number integer NOT NULL,
    place text NOT NULL,
    at jsonb NOT NULL,
    area jsonb NOT NULL,
    kind character varying(40) NOT NULL,
    probe character varying(40),
    size_mm integer,
    structural boolean NOT NULL,
    gauge_mm numeric,
    note text NOT NULL,
    photo_id uuid,
    behind uuid,
    found_by text NOT NULL,
    found_at timestamp with time zone NOT NULL,
    options jsonb NOT NULL,
    choice character varying(40),
    choice_reason text NOT NULL,
    chosen_by text,
    chosen_at timestamp with time zone,
    agreed_by text,
    agreed_at timestamp with time zone,
    operations jsonb NOT NULL,
    parts jsonb NOT NULL,
    in_estimate jsonb,
    withdrawn_why text,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_survey_findings PRIMARY KEY (id),
    CONSTRAINT fk_survey_findings_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT
);

CREATE TABLE survey_looks (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    place text NOT NULL,
    by text NOT NULL,
    "on" timestamp with time zone NOT NULL,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_survey_looks PRIMARY KEY (id),
    CONSTRAINT fk_survey_looks_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT
);

CREATE TABLE survey_marks (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    place text NOT NULL,
    at jsonb NOT NULL,
    result character varying(40) NOT NULL,
    by text NOT NULL,
    "on" timestamp with time zone NOT NULL,
    withdrawn_by text,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_survey_marks PRIMARY KEY (id),
    CONSTRAINT fk_survey_marks_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT
);

CREATE INDEX ix_survey_findings_build_id ON survey_findings (build_id);

CREATE UNIQUE INDEX ix_survey_findings_build_id_number ON survey_findings (build_id, number);

CREATE UNIQUE INDEX ix_survey_findings_seq ON survey_findings (seq);

CREATE INDEX ix_survey_looks_build_id ON survey_looks (build_id);

CREATE UNIQUE INDEX ix_survey_looks_seq ON survey_looks (seq);

CREATE INDEX ix_survey_marks_build_id ON survey_marks (build_id);

CREATE UNIQUE INDEX ix_survey_marks_seq ON survey_marks (seq);
