ALTER TABLE shop_settings ADD address text NOT NULL DEFAULT '';

ALTER TABLE access_accounts ADD closed_at timestamp with time zone;

ALTER TABLE access_accounts ADD word_until timestamp with time zone;

CREATE TABLE access_prints (
    of uuid NOT NULL,
    what character varying(60) NOT NULL,
    print character varying(64) NOT NULL,
    CONSTRAINT pk_access_prints PRIMARY KEY (of, what)
);

CREATE TABLE access_sessions (
    id uuid NOT NULL,
    account_id uuid NOT NULL,
    started_at timestamp with time zone NOT NULL,
    ends_at timestamp with time zone NOT NULL,
    device character varying(120) NOT NULL,
    ended_at timestamp with time zone,
    CONSTRAINT pk_access_sessions PRIMARY KEY (id),
    CONSTRAINT fk_access_sessions_access_accounts_account_id FOREIGN KEY (account_id) REFERENCES access_accounts (id) ON DELETE RESTRICT
);

CREATE TABLE access_wrong_answers (
    id uuid NOT NULL,
    build_id uuid NOT NULL,
    paper_id uuid NOT NULL,
    link_id uuid NOT NULL,
    seq bigint NOT NULL DEFAULT (nextval('recorded')),
    recorded_at timestamp with time zone NOT NULL,
    recorded_by uuid NOT NULL,
    CONSTRAINT pk_access_wrong_answers PRIMARY KEY (id),
    CONSTRAINT fk_access_wrong_answers_builds_build_id FOREIGN KEY (build_id) REFERENCES builds (id) ON DELETE RESTRICT,
    CONSTRAINT fk_access_wrong_answers_money_papers_paper_id FOREIGN KEY (paper_id) REFERENCES money_papers (id) ON DELETE RESTRICT
);

CREATE INDEX ix_access_sessions_account_id ON access_sessions (account_id);

CREATE INDEX ix_access_wrong_answers_build_id ON access_wrong_answers (build_id);

CREATE INDEX ix_access_wrong_answers_paper_id_recorded_at ON access_wrong_answers (paper_id, recorded_at);

CREATE UNIQUE INDEX ix_access_wrong_answers_seq ON access_wrong_answers (seq);
