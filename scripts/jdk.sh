# Finds a JDK of at least version 25: JAVA_HOME, then the usual places, then the path. Sets JAVA_HOME.
holotome_jdk_version() {
  [ -x "$1/bin/javac" ] || return 1
  # The file that comes with a JDK says it at once; asking the compiler takes a third of a second.
  local version
  version=$(sed -n 's/^JAVA_VERSION="\([0-9]*\).*/\1/p' "$1/release" 2>/dev/null)
  [ -n "$version" ] && echo "$version" && return 0
  "$1/bin/javac" -version 2>&1 | sed -n 's/^javac \([0-9]*\).*/\1/p'
}
holotome_find_jdk() {
  local candidate version
  for candidate in "${JAVA_HOME:-}" /usr/lib/jvm/*25* /usr/lib/jvm/* /opt/jdk* /opt/*jdk* \
    "$HOME"/.jdks/* "$HOME"/.sdkman/candidates/java/* /Library/Java/JavaVirtualMachines/*/Contents/Home \
    "$(dirname "$(dirname "$(readlink -f "$(command -v javac 2>/dev/null || echo /nowhere/bin/javac)")")")"; do
    [ -n "$candidate" ] || continue
    version=$(holotome_jdk_version "$candidate") || continue
    if [ "${version:-0}" -ge 25 ]; then
      export JAVA_HOME="$candidate"
      return 0
    fi
  done
  echo "holotome: JDK 25 is not found; install it (on Debian, a package such as openjdk-25-jdk or temurin-25-jdk) or set JAVA_HOME to it" >&2
  return 1
}
