# The environment of the programs, for a shell in which one of them is run by hand: . scripts/dev.sh
# Expects that ./start has run.

ROOT=$(git rev-parse --show-toplevel)
. "$ROOT/scripts/ground.sh"
. "$ROOT/scripts/database.sh"
database_up
HAKOBU_SECRET=$(cat "$RUN/app.secret")
export HAKOBU_SECRET
