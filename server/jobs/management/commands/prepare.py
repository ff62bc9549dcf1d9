"""What must be so before the application starts, in one process: the database, its tables, static files, the demo."""

import psycopg
from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from psycopg import sql


class Command(BaseCommand):
    help = __doc__ or ""

    def handle(self, **options) -> None:
        self._database()
        call_command("migrate", verbosity=0)
        call_command("collectstatic", interactive=False, verbosity=0)
        call_command("load_demo")

    def _database(self) -> None:
        values = settings.DATABASES["default"]
        server = {
            "host": values["HOST"],
            "port": values["PORT"],
            "user": values["USER"],
            "password": values["PASSWORD"],
        }
        with psycopg.connect(dbname="postgres", autocommit=True, **server) as connection:
            there = connection.execute("select 1 from pg_database where datname = %s", [values["NAME"]]).fetchone()
            if not there:
                name = sql.Identifier(values["NAME"])
                connection.execute(sql.SQL("create database {}").format(name))
