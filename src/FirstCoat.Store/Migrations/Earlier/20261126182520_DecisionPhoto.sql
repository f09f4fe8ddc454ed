ALTER TABLE builds_decisions ADD photo_id uuid;
