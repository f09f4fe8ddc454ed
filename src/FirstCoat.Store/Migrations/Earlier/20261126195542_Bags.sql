CREATE TABLE teardown_bags (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    code integer NOT NULL,
    side character varying(40) NOT NULL,
    what text NOT NULL,
    "from" text NOT NULL,
    pieces jsonb NOT NULL,
    fasteners jsonb NOT NULL,
    place text NOT NULL,
    state character varying(40) NOT NULL,
    pattern_for uuid,
    photo_id uuid,
    no_photo boolean NOT NULL,
    off_by text NOT NULL,
    off_at timestamp with time zone NOT NULL,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_teardown_bags PRIMARY KEY (id),
    CONSTRAINT fk_teardown_bags_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT
);

CREATE TABLE teardown_moves (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    bag_id uuid NOT NULL,
    state character varying(40) NOT NULL,
    place text NOT NULL,
    note text NOT NULL,
    by text NOT NULL,
    at timestamp with time zone NOT NULL,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_teardown_moves PRIMARY KEY (id),
    CONSTRAINT fk_teardown_moves_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT,
    CONSTRAINT fk_teardown_moves_teardown_bags_bag_id FOREIGN KEY (bag_id) REFERENCES teardown_bags (id) ON DELETE RESTRICT
);

CREATE INDEX ix_teardown_bags_build_id ON teardown_bags (build_id);

CREATE UNIQUE INDEX ix_teardown_bags_code ON teardown_bags (code);

CREATE UNIQUE INDEX ix_teardown_bags_seq ON teardown_bags (seq);

CREATE INDEX ix_teardown_moves_bag_id ON teardown_moves (bag_id);

CREATE INDEX ix_teardown_moves_build_id ON teardown_moves (build_id);

CREATE UNIQUE INDEX ix_teardown_moves_seq ON teardown_moves (seq);
