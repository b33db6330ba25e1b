-- Document version 6: a level's one rule of the ground becomes two, as core/level/upgrade does for packages.
INSERT INTO "objects" ("level_id", "id", "kind", "version", "body")
SELECT "level_id", left("id", 58) || '-below', 'groundRule', 1,
  jsonb_build_object('id', left("id", 58) || '-below', 'version', 1, 'kind', 'groundRule', 'name', 'everywhere', 'order', 0, 'surface', "body"->'below', 'share', 1, 'where', '[]'::jsonb, 'wins', false, 'on', true)
FROM "objects" WHERE "kind" = 'groundRule' AND "body" ? 'above' AND NOT "body" ? 'where'
ON CONFLICT DO NOTHING;--> statement-breakpoint
UPDATE "objects" SET "body" = ("body" - 'below' - 'above' - 'slope' - 'soft') || jsonb_build_object('order', 10, 'surface', "body"->'above', 'share', 1, 'wins', false, 'on', true,
  'where', jsonb_build_array(jsonb_build_object('by', 'slope', 'band', jsonb_build_array("body"->'slope', 90), 'soft', "body"->'soft')))
WHERE "kind" = 'groundRule' AND "body" ? 'above' AND NOT "body" ? 'where';
