#!/bin/sh
# Runs a dotnet command that compiles with one compiler for all its projects; it ends with the command.
# Compiling is over before watching how its code runs pays, and little garbage collected often costs more than much of it seldom:
# without these three the whole takes two and a half times as long.
DOTNET_TieredPGO=0
DOTNET_GCgen0size=4000000
export DOTNET_TieredPGO DOTNET_GCgen0size
name=bright-tier-$$
version=$(dotnet --version)
compiler=$(dotnet --list-sdks | sed -n "s|^$version \[\(.*\)\]\$|\1/$version/Roslyn/bincore/VBCSCompiler|p")
[ -x "$compiler" ] || exec dotnet "$@"
"$compiler" "-pipename:$name" >/dev/null 2>&1 &
trap 'kill '$!' 2>/dev/null' EXIT
dotnet "$@" -p:UseSharedCompilation=true "-p:SharedCompilationId=$name"
