# Builds what is missing or older than its sources, quietly, with one line of progress.
holotome_stale() {
  local stamp="$1/target/holotome.built"
  [ -f "$stamp" ] || return 0
  [ -n "$(find "$1/pom.xml" "$1"/*/pom.xml "$1"/*/src/main -newer "$stamp" -type f -print -quit)" ]
}
holotome_build() {
  local root="$1" log="$1/target/build.log"
  holotome_stale "$root" || return 0
  command -v mvn >/dev/null || { echo "holotome: Maven is not found; install it (on Debian, the package maven)" >&2; return 1; }
  mkdir -p "$root/target"
  echo "holotome: building, about a minute the first time ..." >&2
  # The warnings are Maven's own libraries', about methods of the JDK they use.
  if ! MAVEN_OPTS="${MAVEN_OPTS:-} --sun-misc-unsafe-memory-access=allow --enable-native-access=ALL-UNNAMED" \
    mvn -q -B -f "$root/pom.xml" package -DskipTests -Djacoco.skip=true >"$log" 2>&1; then
    tail -n 30 "$log" >&2
    echo "holotome: the build failed; the whole of its output is in $log" >&2
    return 1
  fi
  touch "$root/target/holotome.built"
}
