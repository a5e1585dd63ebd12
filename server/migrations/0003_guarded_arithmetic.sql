CREATE FUNCTION sorvik.arithmetic(op text, a double precision, b double precision) RETURNS double precision
LANGUAGE plpgsql IMMUTABLE STRICT AS $$
BEGIN
  RETURN CASE op WHEN '+' THEN a + b WHEN '-' THEN a - b WHEN '*' THEN a * b WHEN '/' THEN a / b WHEN '^' THEN power(a, b) END;
EXCEPTION WHEN numeric_value_out_of_range THEN
  RETURN CASE WHEN SQLERRM LIKE '%underflow%' THEN 0 END;
END $$;--> statement-breakpoint
CREATE FUNCTION sorvik.shifted(moment timestamp, amount double precision, unit text) RETURNS timestamp
LANGUAGE plpgsql IMMUTABLE STRICT AS $$
BEGIN
  RETURN moment + amount * ('1 ' || unit)::interval;
EXCEPTION WHEN datetime_field_overflow OR interval_field_overflow OR numeric_value_out_of_range THEN
  RETURN NULL;
END $$;
