ALTER TABLE `as_run` ADD `class` text DEFAULT 'other' NOT NULL;--> statement-breakpoint
ALTER TABLE `as_run` ADD `entry` text;--> statement-breakpoint
UPDATE `as_run` SET `class` = CASE WHEN `kind` = 'press' AND json_extract(`row`, '$.who') = 'tally' THEN 'tally' WHEN `kind` IN ('press', 'stop', 'begin', 'run') THEN 'press' WHEN `kind` IN ('link', 'reading') THEN `kind` ELSE 'other' END;--> statement-breakpoint
CREATE INDEX `as_run_by_class` ON `as_run` (`class`,`n`);--> statement-breakpoint
CREATE UNIQUE INDEX `as_run_by_entry` ON `as_run` (`entry`) WHERE entry is not null;