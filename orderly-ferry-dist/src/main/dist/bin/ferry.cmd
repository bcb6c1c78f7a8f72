@echo off
rem Starts the command line of an installed Orderly Ferry on Windows. Nobody has tried this file there yet.
setlocal
set "home=%~dp0.."
set "java=java"
if defined JAVA_HOME set "java=%JAVA_HOME%\bin\java"
if exist "%home%\runtime\bin\java.exe" set "java=%home%\runtime\bin\java"
"%java%" "@%home%\bin\java-options" %FERRY_JAVA_OPTIONS% -cp "%home%\lib\*" org.orderlyferry.cli.Main %*
exit /b %ERRORLEVEL%
