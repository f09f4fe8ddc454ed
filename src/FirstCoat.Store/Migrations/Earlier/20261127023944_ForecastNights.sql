CREATE TABLE plan_forecast_nights (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    "on" date NOT NULL,
    p50 date NOT NULL,
    p80 date NOT NULL,
    p90 date NOT NULL,
    kept numeric(4,3),
    holds_kind character varying(40) NOT NULL,
    holds character varying(200) NOT NULL,
    CONSTRAINT pk_plan_forecast_nights PRIMARY KEY (id),
    CONSTRAINT fk_plan_forecast_nights_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE CASCADE
);

CREATE UNIQUE INDEX ix_plan_forecast_nights_build_id_on ON plan_forecast_nights (build_id, "on");
