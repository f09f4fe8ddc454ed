ALTER TABLE survey_panel_events ADD blocks_hanging boolean;

ALTER TABLE survey_panel_events ADD flag jsonb;

ALTER TABLE survey_panel_events ADD out_by character varying(40);

ALTER TABLE survey_panel_events ADD takes_back uuid;

ALTER TABLE sequence_operations ADD earlier_signatures jsonb NOT NULL DEFAULT '[]';

ALTER TABLE sequence_operations ADD out_of_order_why character varying(300) NOT NULL DEFAULT '';

ALTER TABLE labour_entries ADD flag jsonb;
