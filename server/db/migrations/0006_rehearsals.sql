CREATE TABLE `rehearsal` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`test_id` integer NOT NULL,
	`pace` real NOT NULL,
	`seed` integer NOT NULL,
	`faults` text NOT NULL,
	`events` text DEFAULT '[]' NOT NULL,
	`by` text NOT NULL,
	`started_at` text NOT NULL,
	`ended_at` text,
	`ended_t` real,
	`end` text,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `rehearsal_test` ON `rehearsal` (`test_id`);