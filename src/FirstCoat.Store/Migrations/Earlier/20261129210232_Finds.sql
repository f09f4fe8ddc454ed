CREATE EXTENSION IF NOT EXISTS pg_trgm;

CREATE TABLE overview_finds (
    id uuid NOT NULL,
    kind character varying(20) NOT NULL,
    build_id uuid,
    label character varying(200) NOT NULL,
    detail character varying(200) NOT NULL,
    text character varying(600) NOT NULL,
    for_desk boolean NOT NULL,
    CONSTRAINT pk_overview_finds PRIMARY KEY (id)
);

CREATE INDEX ix_overview_finds_build_id ON overview_finds (build_id);

CREATE INDEX ix_overview_finds_kind ON overview_finds (kind);

CREATE INDEX ix_overview_finds_text ON overview_finds USING gin (text gin_trgm_ops);
