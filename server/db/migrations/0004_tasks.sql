CREATE TABLE `task` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`campaign_id` integer NOT NULL,
	`name` text NOT NULL,
	`days` real NOT NULL,
	`low` real,
	`high` real,
	`after` text DEFAULT '[]' NOT NULL,
	`resource` text DEFAULT '' NOT NULL,
	`booked_on` text,
	`cost` real,
	`test_id` integer,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`campaign_id`) REFERENCES `campaign`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `campaign` ADD `starts_on` text;--> statement-breakpoint
ALTER TABLE `campaign` ADD `workdays` text DEFAULT '12345' NOT NULL;--> statement-breakpoint
ALTER TABLE `campaign` ADD `holidays` text DEFAULT '[]' NOT NULL;