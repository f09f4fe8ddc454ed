ALTER TABLE parts_lines ADD bag_id uuid;

CREATE TABLE teardown_assemblies (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    kind character varying(40) NOT NULL,
    side character varying(40) NOT NULL,
    name text NOT NULL,
    back_with uuid,
    steps jsonb NOT NULL,
    states jsonb NOT NULL,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_teardown_assemblies PRIMARY KEY (id),
    CONSTRAINT fk_teardown_assemblies_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT
);

CREATE INDEX ix_teardown_assemblies_build_id ON teardown_assemblies (build_id);

CREATE UNIQUE INDEX ix_teardown_assemblies_seq ON teardown_assemblies (seq);
