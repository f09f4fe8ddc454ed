ALTER TABLE shop_suppliers ADD work_days jsonb NOT NULL DEFAULT '[]';

ALTER TABLE shop_stations ADD terms jsonb NOT NULL DEFAULT '{}';

ALTER TABLE shop_settings ADD plan jsonb NOT NULL DEFAULT '{}';

ALTER TABLE shop_people ADD terms jsonb NOT NULL DEFAULT '{}';

ALTER TABLE sequence_operations ADD template_key text NOT NULL DEFAULT '';

ALTER TABLE sequence_operations ADD terms jsonb NOT NULL DEFAULT '{}';

ALTER TABLE parts_lines ADD measured_by uuid;

ALTER TABLE builds ADD terms jsonb NOT NULL DEFAULT '{}';

CREATE TABLE plan_baselines (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    why character varying(100) NOT NULL,
    finish timestamp with time zone NOT NULL,
    rows jsonb NOT NULL,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_plan_baselines PRIMARY KEY (id),
    CONSTRAINT fk_plan_baselines_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT
);

CREATE TABLE plan_contentions (
    id uuid NOT NULL,
    first uuid NOT NULL,
    second uuid NOT NULL,
    turned boolean NOT NULL,
    by text NOT NULL,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_plan_contentions PRIMARY KEY (id)
);

CREATE TABLE plan_what_ifs (
    id uuid NOT NULL,
    name text NOT NULL,
    changes jsonb NOT NULL,
    adopted_at timestamp with time zone,
    adopted_by text,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_plan_what_ifs PRIMARY KEY (id)
);

CREATE INDEX ix_plan_baselines_build_id ON plan_baselines (build_id);

CREATE UNIQUE INDEX ix_plan_baselines_seq ON plan_baselines (seq);

CREATE UNIQUE INDEX ix_plan_contentions_seq ON plan_contentions (seq);

CREATE UNIQUE INDEX ix_plan_what_ifs_seq ON plan_what_ifs (seq);
