-- What users have added to the catalogue: rows of its tables, beside those that ship. Their names begin with "own-", so
-- that no later catalogue takes them.

CREATE TABLE own_product (
    kind       text NOT NULL,
    product_id text NOT NULL,
    product    jsonb NOT NULL,
    kept_at    timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT own_product_key PRIMARY KEY (kind, product_id),
    CONSTRAINT own_product_kind_known CHECK (kind IN ('pipe', 'fitting', 'part', 'float_valve', 'vessel')),
    CONSTRAINT own_product_named_as_own CHECK (product_id LIKE 'own-%'),
    CONSTRAINT own_product_says_its_name CHECK (product ->> 'product_id' = product_id)
);
