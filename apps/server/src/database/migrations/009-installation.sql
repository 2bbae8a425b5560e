insert into setting (key, value) values ('installation', to_jsonb(left(gen_random_uuid()::text, 8))) on conflict do nothing;
