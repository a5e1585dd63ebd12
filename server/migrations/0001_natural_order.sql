-- Texts stand in the order people expect: "Pier 2" before "Pier 10".
CREATE COLLATION IF NOT EXISTS "sorvik"."natural_order" (provider = icu, locale = 'en-u-kn-true');
