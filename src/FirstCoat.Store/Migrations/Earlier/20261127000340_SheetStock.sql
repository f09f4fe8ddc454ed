ALTER TABLE shop_settings ADD sheets jsonb NOT NULL DEFAULT '[]';
