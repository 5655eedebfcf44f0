CREATE TABLE `plan_digest` (
	`test_id` integer PRIMARY KEY NOT NULL,
	`fingerprint` text NOT NULL,
	`digest` text
);
--> statement-breakpoint
CREATE INDEX `article_campaign` ON `article` (`campaign_id`);--> statement-breakpoint
CREATE INDEX `channel_sensor` ON `channel` (`sensor_id`);--> statement-breakpoint
CREATE INDEX `dataset_test` ON `dataset` (`test_id`);--> statement-breakpoint
CREATE INDEX `judgement_test` ON `judgement` (`test_id`);--> statement-breakpoint
CREATE INDEX `design_limit_article` ON `design_limit` (`article_id`);--> statement-breakpoint
CREATE INDEX `reduction_test` ON `reduction` (`test_id`);--> statement-breakpoint
CREATE INDEX `run_test` ON `run` (`test_id`);--> statement-breakpoint
CREATE INDEX `run_dataset` ON `run` (`dataset_id`);--> statement-breakpoint
CREATE INDEX `test_revision` ON `test` (`revision_id`);--> statement-breakpoint
CREATE INDEX `firing_test` ON `firing` (`test_id`);