#!/bin/sh
# Runs a dotnet command that compiles with one compiler for all its projects; it ends with the command.
# Compiling is over before watching how its code runs pays, little garbage collected often costs more than much of it seldom, and so does
# mapping each method's memory twice while it is written: together they take two and a half times as long.
DOTNET_TieredPGO=0
DOTNET_GCgen0size=4000000
DOTNET_EnableWriteXorExecute=0
name=bright-tier-$$
version=$(dotnet --version)
compiler=$(dotnet --list-sdks | sed -n "s|^$version \[\(.*\)\]\$|\1/$version/Roslyn/bincore/VBCSCompiler|p")
[ -x "$compiler" ] || exec dotnet "$@"
"$compiler" "-pipename:$name" >/dev/null 2>&1 &
trap 'kill '$!' 2>/dev/null' EXIT
dotnet "$@" -p:UseSharedCompilation=true "-p:SharedCompilationId=$name"
