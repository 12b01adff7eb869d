"""what is said of a pull can be said anew: its build, day, dyno, air and set-up stand on cards, the rows stay"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

CENTURY = "pulled_at between timestamptz '2000-01-01' and timestamptz '2100-01-01'"
STANDARDS = "('observed', 'sae_j1349', 'iso_1585', 'sae_j607', 'din_70020')"
BEFORE = "('observed', 'sae_j1349', 'iso_1585')"
MOVED = (
    sa.Column("build_id", sa.Uuid()),
    sa.Column("dyno_id", sa.Uuid()),
    sa.Column("label", sa.String()),
    sa.Column("standard_in_file", sa.String()),
    sa.Column("air_temperature_c", sa.Float()),
    sa.Column("air_pressure_kpa", sa.Float()),
    sa.Column("air_humidity_percent", sa.Float()),
)
CHECKS = (
    (f"standard_in_file in {STANDARDS}", "standard_in_file"),
    ("air_pressure_kpa between 50 and 110", "air_pressure"),
    ("air_humidity_percent between 0 and 100", "air_humidity"),
)


def upgrade() -> None:
    op.add_column("job", sa.Column("uses", JSONB(), server_default="[]", nullable=False))
    _dynos()
    _cards()
    op.execute("drop trigger if exists pull_reading_of_its_job on pull_reading")
    op.execute("drop function if exists pull_reading_of_its_job()")
    for column in (*(column.name for column in MOVED), "measures"):
        op.drop_column("pull_reading", column)
    op.drop_constraint(op.f("ck_job_standard"), "job")
    op.create_check_constraint(op.f("ck_job_standard"), "job", f"standard in {STANDARDS}")


def _dynos() -> None:
    op.add_column("dyno", sa.Column("kind", sa.String(), server_default="engine", nullable=False))
    op.add_column("dyno", sa.Column("load", sa.String(), server_default="", nullable=False))
    op.add_column("dyno", sa.Column("day_shift_percent", sa.Float()))
    op.execute("update dyno set kind = 'roller' where measures = 'wheel'")
    op.create_check_constraint(op.f("ck_dyno_kind"), "dyno", "kind in ('engine', 'hub', 'roller')")
    op.create_check_constraint(op.f("ck_dyno_load"), "dyno", "load in ('', 'inertia', 'brake')")
    op.create_check_constraint(op.f("ck_dyno_day_shift"), "dyno", "day_shift_percent > 0")
    op.drop_column("dyno", "measures")


def _cards() -> None:
    op.create_table(
        "pull_card",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("content_digest", sa.String(64), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("person_id", sa.Uuid(), nullable=False),
        sa.Column("pull_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("pulled_at", sa.DateTime(timezone=True), nullable=False),
        *(
            sa.Column(c.name, c.type, nullable=c.name.startswith("air"), server_default="" if c.name == "label" else None)
            for c in MOVED
        ),
        sa.Column("declared", JSONB(), server_default="{}", nullable=False),
        sa.Column("typed", JSONB(), server_default="{}", nullable=False),
        sa.CheckConstraint(CENTURY, name=op.f("ck_pull_card_pulled_at")),
        sa.CheckConstraint("number >= 1", name=op.f("ck_pull_card_number")),
        *(sa.CheckConstraint(rule, name=op.f(f"ck_pull_card_{name}")) for rule, name in CHECKS),
        *(
            sa.ForeignKeyConstraint([f"{column}_id"], [f"{table}.id"], name=op.f(f"fk_pull_card_{column}_id"))
            for column, table in (
                ("person", "person"), ("pull", "pull_reading"), ("build", "build"), ("dyno", "dyno"),
            )
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pull_card")),
        sa.UniqueConstraint("pull_id", "number", name=op.f("uq_pull_card_pull_id_number")),
    )  # fmt: skip
    op.create_index(op.f("ix_pull_card_build_id"), "pull_card", ["build_id"])
    op.execute("""
        insert into pull_card (id, content_digest, created_at, person_id, pull_id, number, pulled_at, build_id, dyno_id,
            label, standard_in_file, air_temperature_c, air_pressure_kpa, air_humidity_percent)
        select p.id, r.content_digest, r.created_at, r.person_id, p.id, 1, r.taken_at, p.build_id, p.dyno_id,
            p.label, p.standard_in_file, p.air_temperature_c, p.air_pressure_kpa, p.air_humidity_percent
        from pull_reading p join reading r on r.id = p.id
    """)
    _guards()


def _guards() -> None:
    op.execute(
        "create trigger pull_card_append_only before update or delete on pull_card "
        "for each row execute function refuse_change()"
    )
    op.execute(
        "create trigger pull_card_keep before truncate on pull_card for each statement execute function refuse_change()"
    )
    op.execute("""
        create function pull_card_of_its_job() returns trigger language plpgsql as $$
        begin
          if not (select b.job_id = r.job_id from reading r, build b where r.id = new.pull_id and b.id = new.build_id) then
            raise exception 'a % of another job', tg_table_name
            using errcode = 'foreign_key_violation', constraint = 'fk_pull_card_of_its_job';
          end if;
          return null;
        end $$
    """)
    op.execute(
        "create trigger pull_card_of_its_job after insert on pull_card "
        "for each row execute function pull_card_of_its_job()"
    )
    op.execute("""
        create function touched_by_pull_card() returns trigger language plpgsql as $$
        begin
          perform touch(
            (select array_agg(distinct r.job_id) from changed c join reading r on r.id = c.pull_id), null, null);
          return null;
        end $$
    """)
    op.execute(
        "create trigger pull_card_touch_insert after insert on pull_card referencing new table as changed "
        "for each statement execute function touched_by_pull_card()"
    )


def downgrade() -> None:
    op.drop_column("job", "uses")
    for column in MOVED:
        op.add_column("pull_reading", sa.Column(column.name, column.type))
    op.add_column("pull_reading", sa.Column("measures", sa.String()))
    op.add_column("dyno", sa.Column("measures", sa.String()))
    op.execute("alter table pull_reading disable trigger pull_reading_append_only")
    op.execute("""
        update pull_reading p set build_id = c.build_id, dyno_id = c.dyno_id, label = c.label,
            standard_in_file = case when c.standard_in_file in ('sae_j607', 'din_70020') then 'observed'
                else c.standard_in_file end,
            air_temperature_c = c.air_temperature_c, air_pressure_kpa = c.air_pressure_kpa,
            air_humidity_percent = c.air_humidity_percent,
            measures = (select case kind when 'engine' then 'engine' else 'wheel' end from dyno where id = c.dyno_id)
        from (select distinct on (pull_id) * from pull_card order by pull_id, number desc) c where c.pull_id = p.id
    """)
    op.execute("alter table pull_reading enable trigger pull_reading_append_only")
    op.execute("update dyno set measures = case kind when 'engine' then 'engine' else 'wheel' end")
    _as_before()
    for name in ("kind", "load", "day_shift_percent"):
        op.drop_column("dyno", name)
    op.drop_table("pull_card")
    for function in ("pull_card_of_its_job", "touched_by_pull_card"):
        op.execute(f"drop function {function}()")
    op.execute("update job set standard = 'observed' where standard in ('sae_j607', 'din_70020')")
    op.drop_constraint(op.f("ck_job_standard"), "job")
    op.create_check_constraint(op.f("ck_job_standard"), "job", f"standard in {BEFORE}")


def _as_before() -> None:
    for name in ("build_id", "dyno_id", "label", "standard_in_file", "measures"):
        op.alter_column("pull_reading", name, nullable=False)
    op.alter_column("dyno", "measures", nullable=False)
    op.create_check_constraint(op.f("ck_dyno_measures"), "dyno", "measures in ('engine', 'wheel')")
    rules = (("measures in ('engine', 'wheel')", "measures"), (f"standard_in_file in {BEFORE}", "standard_in_file"))
    for rule, name in (*rules, *CHECKS[1:]):
        op.create_check_constraint(op.f(f"ck_pull_reading_{name}"), "pull_reading", rule)
    for column in ("build", "dyno"):
        op.create_foreign_key(op.f(f"fk_pull_reading_{column}_id"), "pull_reading", column, [f"{column}_id"], ["id"])
    op.create_index(op.f("ix_pull_reading_build_id"), "pull_reading", ["build_id"])
    op.execute("""
        create function pull_reading_of_its_job() returns trigger language plpgsql as $$
        begin
          if not (select b.job_id = r.job_id from reading r, build b where r.id = new.id and b.id = new.build_id) then
            raise exception 'a % of another job', tg_table_name
            using errcode = 'foreign_key_violation', constraint = 'fk_pull_reading_of_its_job';
          end if;
          return null;
        end $$
    """)
    op.execute(
        "create trigger pull_reading_of_its_job after insert on pull_reading "
        "for each row execute function pull_reading_of_its_job()"
    )
