CREATE TABLE `decision` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`test_id` integer NOT NULL,
	`reduction_id` integer NOT NULL,
	`revision_id` integer NOT NULL,
	`chosen` text NOT NULL,
	`alternatives` text NOT NULL,
	`weights` text DEFAULT '{}' NOT NULL,
	`reasons` text DEFAULT '' NOT NULL,
	`by` text NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`reduction_id`) REFERENCES `reduction`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `decision_test` ON `decision` (`test_id`);--> statement-breakpoint
CREATE INDEX `decision_revision` ON `decision` (`revision_id`);--> statement-breakpoint
ALTER TABLE `article` ADD `sizing` text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `judgement` ADD `answers` text DEFAULT '{}' NOT NULL;