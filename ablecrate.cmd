@echo off
rem Starts Able Crate; see README.md. Finds a JDK 25, builds when needed, runs.
setlocal enabledelayedexpansion
set "HOME_DIR=%~dp0"
set "APP=%HOME_DIR%desktop\target\app"
set "ARCH=x86_64"
if "%PROCESSOR_ARCHITECTURE%"=="ARM64" set "ARCH=aarch64"
set "SQLITE=-Dorg.sqlite.lib.path=%APP%\native\org\sqlite\native\Windows\%ARCH%"
set "JDK="
for %%J in ("%JAVA_HOME%") do call :try "%%~J"
for /d %%J in ("%ProgramFiles%\Eclipse Adoptium\jdk*" "%ProgramFiles%\Java\jdk*" "%USERPROFILE%\.jdks\*") do call :try "%%~J"
if not defined JDK (
    echo Able Crate needs a JDK 25 or newer, and none was found in JAVA_HOME or the usual folders. 1>&2
    exit /b 3
)
if "%~1"=="test" (
    shift
    call mvn -B -f "%HOME_DIR%pom.xml" verify
    exit /b !errorlevel!
)
set "NEWER="
if exist "%APP%\built" for /f %%N in ('powershell -NoProfile -Command "$b=(Get-Item '%APP%\built').LastWriteTime; @(Get-ChildItem '%HOME_DIR%core\src\main','%HOME_DIR%demo\src\main','%HOME_DIR%cli\src\main','%HOME_DIR%desktop\src\main' -Recurse -File | Where-Object LastWriteTime -gt $b).Count"') do set "NEWER=%%N"
if not "!NEWER!"=="0" (
    echo Building Able Crate ^(only after a change of its sources^) ... 1>&2
    call mvn -q -B -f "%HOME_DIR%pom.xml" package -pl desktop -am -Dmaven.test.skip=true || exit /b 3
    type nul > "%APP%\built"
)
set "WINDOW="
if "%~1"=="" set "WINDOW=1"
if "%~1"=="demo" set "WINDOW=1"
if /i "%~x1"==".ablecrate" set "WINDOW=1"
if defined WINDOW (
    "%JDK%\bin\java" "@%HOME_DIR%start\loops.args" "@%HOME_DIR%start\window.args" "%SQLITE%" --module-path "%APP%\javafx" -cp "%APP%\lib\*" ablecrate.desktop.Main %*
) else (
    "%JDK%\bin\java" "@%HOME_DIR%start\loops.args" "@%HOME_DIR%start\commands.args" "%SQLITE%" "-Xbootclasspath/a:%APP%\boot\picocli.jar" -cp "%APP%\lib\*" ablecrate.cli.Main %*
)
exit /b %errorlevel%

:try
if defined JDK exit /b
if not exist "%~1\bin\javac.exe" exit /b
for /f "tokens=2 delims==." %%V in ('findstr /b JAVA_VERSION= "%~1\release"') do (
    set "MAJOR=%%~V"
    set "MAJOR=!MAJOR:"=!"
    if !MAJOR! GEQ 25 set "JDK=%~1"
)
exit /b
