ALTER TABLE sorvik.refresh_schedules ADD COLUMN set_by text;
