alter table job add lane text not null default 'run_job';
update job set lane = 'run_beside' where kind <> 'convert';
comment on column job.lane is 'Of the queue: each worker runs one job of each lane at a time, so that no file waits for a check, and no short file for a long one.';
