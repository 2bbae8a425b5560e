alter table geometry alter column shape drop not null;
comment on column geometry.shape is 'Source shape for questions to the kernel, brotli; null where there is none to ask: then it is a mesh only.';
