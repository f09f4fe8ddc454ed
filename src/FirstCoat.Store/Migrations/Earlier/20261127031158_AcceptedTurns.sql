CREATE TABLE plan_turns (
    id uuid NOT NULL,
    turns jsonb NOT NULL,
    accepted_by character varying(100) NOT NULL,
    late_before double precision NOT NULL,
    late_after double precision NOT NULL,
    undone boolean NOT NULL,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_plan_turns PRIMARY KEY (id)
);

CREATE UNIQUE INDEX ix_plan_turns_seq ON plan_turns (seq);
