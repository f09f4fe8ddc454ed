ALTER TABLE builds ADD return_of uuid;
