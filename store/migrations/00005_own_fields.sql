-- Kit keeps only what its kind has: a coupling written on a load was never read, and would
-- be refused when the item is next changed. Copies in measurements stay as they were.
-- +goose Up
UPDATE kit SET spec = jsonb_set(spec, '{element}', (spec -> 'element') - CASE
    WHEN k = 'cable' THEN '{coupling_db,coupling_unknown,flat_within_db,main_load_w,ranges,shi_dbm,toi_dbm,input_attenuation_db}'::text[]
    WHEN k IN ('tap', 'coupler', 'sampler') THEN '{cable,points,length_m,ranges,shi_dbm,toi_dbm,input_attenuation_db}'::text[]
    WHEN k IN ('adapter', 'meter', 'through-meter', 'attenuator', 'switched-attenuator')
        THEN '{cable,points,length_m,coupling_db,coupling_unknown,flat_within_db,main_load_w,ranges,shi_dbm,toi_dbm,input_attenuation_db}'::text[]
    WHEN k = 'analyzer' THEN '{loss,tolerance_db,expanded_db,coverage_factor,typical_tolerance,cable,points,length_m,coupling_db,coupling_unknown,flat_within_db,main_load_w}'::text[]
    ELSE '{loss,tolerance_db,expanded_db,coverage_factor,typical_tolerance,cable,points,length_m,coupling_db,coupling_unknown,flat_within_db,main_load_w,ranges,shi_dbm,toi_dbm,input_attenuation_db}'::text[]
    END)
FROM (SELECT id AS kit_id, coalesce(nullif(spec ->> 'kind', ''), spec -> 'element' ->> 'kind') AS k FROM kit) AS kinds
WHERE kinds.kit_id = kit.id AND jsonb_typeof(spec -> 'element') = 'object';

-- +goose Down
SELECT 1;
