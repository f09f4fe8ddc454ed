CREATE TABLE builds_arrivals (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    came_on date NOT NULL,
    "as" character varying(40) NOT NULL,
    on_whose text NOT NULL,
    serial integer,
    breaks jsonb NOT NULL,
    odometer integer,
    keys integer NOT NULL,
    fluids jsonb NOT NULL,
    battery character varying(40) NOT NULL,
    storage text NOT NULL,
    promised jsonb NOT NULL,
    came_unasked jsonb NOT NULL,
    stand_ins jsonb NOT NULL,
    to_undo jsonb NOT NULL,
    hazards jsonb NOT NULL,
    heights jsonb,
    round jsonb NOT NULL,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_builds_arrivals PRIMARY KEY (id),
    CONSTRAINT fk_builds_arrivals_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT
);

CREATE UNIQUE INDEX ix_builds_arrivals_build_id ON builds_arrivals (build_id);

CREATE UNIQUE INDEX ix_builds_arrivals_seq ON builds_arrivals (seq);
