CREATE TABLE `plan_version` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`test_id` integer NOT NULL,
	`number` integer NOT NULL,
	`plan` text NOT NULL,
	`reason` text DEFAULT '' NOT NULL,
	`findings` text NOT NULL,
	`by` text NOT NULL,
	`at` text NOT NULL,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `plan_version_number` ON `plan_version` (`test_id`,`number`);--> statement-breakpoint
ALTER TABLE `ready_mark` ADD `reading` text;--> statement-breakpoint
ALTER TABLE `test` ADD `plan_state` text DEFAULT 'draft' NOT NULL;--> statement-breakpoint
ALTER TABLE `test` ADD `plan_number` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `test` ADD `plan_reason` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `test` ADD `plan_edit` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `attachment` ADD `tag` text DEFAULT '' NOT NULL;