ALTER TABLE survey_findings ADD not_done_why text;

ALTER TABLE builds_decisions ADD let_go jsonb NOT NULL DEFAULT '[]';

ALTER TABLE builds_decisions ADD paper_id uuid;

ALTER TABLE builds ADD accepted_at timestamp with time zone;

CREATE TABLE money_papers (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    kind character varying(40) NOT NULL,
    number integer NOT NULL,
    words jsonb NOT NULL,
    lines jsonb NOT NULL,
    decision_id uuid,
    sent_at timestamp with time zone,
    sent_by text,
    page text,
    answer jsonb,
    withdrawn_why text,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_money_papers PRIMARY KEY (id),
    CONSTRAINT fk_money_papers_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT
);

CREATE TABLE access_codes (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    link_id uuid NOT NULL,
    paper_id uuid NOT NULL,
    code_hash text NOT NULL,
    sent_to text NOT NULL,
    sent_at timestamp with time zone NOT NULL,
    tried integer NOT NULL,
    used_at timestamp with time zone,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_access_codes PRIMARY KEY (id),
    CONSTRAINT fk_access_codes_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT,
    CONSTRAINT fk_access_codes_money_papers_paper_id FOREIGN KEY (paper_id) REFERENCES money_papers (id) ON DELETE RESTRICT
);

CREATE INDEX ix_access_codes_build_id ON access_codes (build_id);

CREATE INDEX ix_access_codes_paper_id ON access_codes (paper_id);

CREATE UNIQUE INDEX ix_access_codes_seq ON access_codes (seq);

CREATE INDEX ix_money_papers_build_id ON money_papers (build_id);

CREATE UNIQUE INDEX ix_money_papers_build_id_kind_number ON money_papers (build_id, kind, number);

CREATE UNIQUE INDEX ix_money_papers_seq ON money_papers (seq);
