CREATE TABLE `action` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`campaign_id` integer NOT NULL,
	`question` text NOT NULL,
	`owner_id` integer,
	`due` text,
	`answer` text DEFAULT '' NOT NULL,
	`review` text DEFAULT '' NOT NULL,
	`limit_id` integer,
	`test_id` integer,
	`revision_id` integer,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`campaign_id`) REFERENCES `campaign`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`owner_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`limit_id`) REFERENCES `design_limit`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`revision_id`) REFERENCES `revision`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `attachment` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`entity` text NOT NULL,
	`entity_id` integer NOT NULL,
	`sha256` text NOT NULL,
	`name` text NOT NULL,
	`mime` text NOT NULL,
	`size` integer NOT NULL,
	`thumbnail` blob,
	`by` text NOT NULL,
	`created_at` text NOT NULL,
	`removed_at` text
);
--> statement-breakpoint
CREATE INDEX `attachment_of` ON `attachment` (`entity`,`entity_id`);--> statement-breakpoint
CREATE TABLE `constant` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`campaign_id` integer NOT NULL,
	`subject` text NOT NULL,
	`property` text NOT NULL,
	`entered` text NOT NULL,
	`value` real NOT NULL,
	`kind` text NOT NULL,
	`origin` text NOT NULL,
	`n` integer,
	`spread` text,
	`source` text DEFAULT '' NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`replaced_by_id` integer,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`campaign_id`) REFERENCES `campaign`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `firing` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`lesson_id` integer NOT NULL,
	`test_id` integer NOT NULL,
	`reasons` text DEFAULT '[]' NOT NULL,
	`answer` text,
	`reason` text DEFAULT '' NOT NULL,
	`by` text DEFAULT '' NOT NULL,
	`answered_at` text,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`lesson_id`) REFERENCES `lesson`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `firing_once` ON `firing` (`lesson_id`,`test_id`);--> statement-breakpoint
CREATE TABLE `lesson` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`title` text NOT NULL,
	`happened` text NOT NULL,
	`instead` text NOT NULL,
	`families` text DEFAULT '[]' NOT NULL,
	`features` text DEFAULT '[]' NOT NULL,
	`fixtures` text DEFAULT '[]' NOT NULL,
	`methods` text DEFAULT '[]' NOT NULL,
	`words` text DEFAULT '[]' NOT NULL,
	`source` text DEFAULT '' NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `person` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text NOT NULL,
	`role` text NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `person_name_unique` ON `person` (`name`);--> statement-breakpoint
PRAGMA foreign_keys=OFF;--> statement-breakpoint
CREATE TABLE `__new_prediction` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`revision_id` integer NOT NULL,
	`test_id` integer,
	`quantity` text NOT NULL,
	`entered` text,
	`band` text,
	`value` real,
	`u` real,
	`k` real DEFAULT 2 NOT NULL,
	`bound` text NOT NULL,
	`curve` text,
	`method` text DEFAULT 'calculation' NOT NULL,
	`source` text NOT NULL,
	`place` text DEFAULT '' NOT NULL,
	`mode` text DEFAULT '' NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`copy_of_id` integer,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` text NOT NULL,
	`locked_at` text,
	FOREIGN KEY (`revision_id`) REFERENCES `revision`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `__new_prediction`("id", "revision_id", "test_id", "quantity", "value", "u", "k", "bound", "method", "source", "created_at", "locked_at") SELECT p."id", (SELECT t."revision_id" FROM `test` t WHERE t."id" = p."test_id"), p."test_id", p."quantity", p."value", p."u", p."k", p."bound", CASE WHEN p."source" LIKE 'scaled%' THEN 'scaled' ELSE 'calculation' END, p."source", p."created_at", p."locked_at" FROM `prediction` p;--> statement-breakpoint
DROP TABLE `prediction`;--> statement-breakpoint
ALTER TABLE `__new_prediction` RENAME TO `prediction`;--> statement-breakpoint
PRAGMA foreign_keys=ON;--> statement-breakpoint
CREATE INDEX `prediction_revision` ON `prediction` (`revision_id`);--> statement-breakpoint
CREATE INDEX `prediction_test` ON `prediction` (`test_id`);--> statement-breakpoint
ALTER TABLE `article` ADD `features` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `article` ADD `version` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `audit` ADD `step` text;--> statement-breakpoint
CREATE INDEX `audit_entity` ON `audit` (`entity`,`entity_id`);--> statement-breakpoint
CREATE INDEX `audit_step` ON `audit` (`step`);--> statement-breakpoint
ALTER TABLE `campaign` ADD `budget` real;--> statement-breakpoint
ALTER TABLE `campaign` ADD `currency` text DEFAULT 'EUR' NOT NULL;--> statement-breakpoint
ALTER TABLE `campaign` ADD `version` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `campaign` DROP COLUMN `materials`;--> statement-breakpoint
ALTER TABLE `design_limit` ADD `factor` real DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `design_limit` ADD `convention` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `design_limit` ADD `verification` text DEFAULT 'test' NOT NULL;--> statement-breakpoint
ALTER TABLE `design_limit` ADD `from_revision_id` integer REFERENCES revision(id);--> statement-breakpoint
ALTER TABLE `design_limit` ADD `state` text DEFAULT 'in-force' NOT NULL;--> statement-breakpoint
ALTER TABLE `design_limit` ADD `version` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `revision` ADD `facts` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `revision` ADD `constants` text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `revision` ADD `version` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `sensor` ADD `serial` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `sensor` ADD `calibrated_on` text;--> statement-breakpoint
ALTER TABLE `sensor` ADD `place` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `sensor` ADD `state` text DEFAULT 'in-use' NOT NULL;--> statement-breakpoint
ALTER TABLE `sensor` ADD `note` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `sensor` ADD `version` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `test` ADD `fixture` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `test` ADD `method` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `test` ADD `notes` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `test` ADD `planned_on` text;--> statement-breakpoint
ALTER TABLE `test` ADD `cost` real;--> statement-breakpoint
ALTER TABLE `test` ADD `version` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
UPDATE `sensor` SET "specification" = json_remove(json_set("specification", '$.calibrationU', json(json_extract("specification", '$.certificate.U')), '$.calibrationK', coalesce(json_extract("specification", '$.certificate.k'), 2)), '$.certificate') WHERE json_extract("specification", '$.certificate') IS NOT NULL;
