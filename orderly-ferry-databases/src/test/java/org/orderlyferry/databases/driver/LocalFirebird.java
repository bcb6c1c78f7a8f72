package org.orderlyferry.databases.driver;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;

/** A Firebird server of one's own, of the programs that Debian's package puts there: on a free port, in a folder, gone when it is closed. */
final class LocalFirebird implements AutoCloseable {

    private static final Path SERVER = Path.of("/usr/sbin/firebird");
    private static final Path SHELL = Path.of("/usr/bin/isql-fb");
    private static final Path SETTINGS = Path.of("/etc/firebird/3.0");
    private static final int PATIENCE = 30;

    private final Process process;
    private final Path folder;
    private final int port;
    private int databases;

    private LocalFirebird(Process process, Path folder, int port) {
        this.process = process;
        this.folder = folder;
        this.port = port;
    }

    /** Whether its programs are on this machine. */
    static boolean isThere() {
        return Files.isExecutable(SERVER) && Files.isExecutable(SHELL) && Files.isDirectory(SETTINGS);
    }

    static LocalFirebird start(Path folder) throws IOException, InterruptedException {
        int port;
        try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            port = free.getLocalPort();
        }
        for (String name : new String[] {"databases.conf", "fbintl.conf", "plugins.conf"}) {
            Files.copy(SETTINGS.resolve(name), folder.resolve(name));
        }
        Files.createDirectories(folder.resolve("run"));
        Path security = folder.resolve("security3.fdb");
        Files.writeString(
                folder.resolve("firebird.conf"),
                """
                RemoteServicePort = %d
                RemoteBindAddress = 127.0.0.1
                ServerMode = Super
                WireCrypt = Enabled
                AuthServer = Srp
                UserManager = Srp
                SecurityDatabase = %s
                DatabaseAccess = Full
                """
                        .formatted(port, security));
        Process shell = command(folder, SHELL.toString(), "-q").start();
        shell.getOutputStream()
                .write(("create database '" + security + "' user SYSDBA;\ncommit;\n"
                                + "create user SYSDBA password 'moss' using plugin Srp;\ncommit;\nquit;\n")
                        .getBytes(StandardCharsets.UTF_8));
        shell.getOutputStream().close();
        if (!shell.waitFor(PATIENCE, TimeUnit.SECONDS) || shell.exitValue() != 0) {
            throw new IOException("no security database can be made: " + Files.readString(folder.resolve("out.txt")));
        }
        LocalFirebird server =
                new LocalFirebird(command(folder, SERVER.toString()).start(), folder, port);
        server.await();
        return server;
    }

    private static ProcessBuilder command(Path folder, String... words) {
        ProcessBuilder builder = new ProcessBuilder(words)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(
                        folder.resolve("out.txt").toFile()));
        builder.environment().put("FIREBIRD", folder.toString());
        builder.environment().put("FIREBIRD_LOCK", folder.resolve("run").toString());
        return builder;
    }

    private void await() throws IOException, InterruptedException {
        for (int i = 0; i < PATIENCE * 10; i++) {
            try {
                new Socket(InetAddress.getLoopbackAddress(), port).close();
                return;
            } catch (IOException e) {
                TimeUnit.MILLISECONDS.sleep(100);
            }
        }
        close();
        throw new IOException("the server doesn't listen: " + Files.readString(folder.resolve("out.txt")));
    }

    /** A new database's URL. */
    String fresh() {
        return "jdbc:firebirdsql://127.0.0.1:" + port + "/" + folder.resolve("d" + ++databases + ".fdb")
                + "?user=SYSDBA&password=moss&encoding=UTF8&createDatabaseIfNotExist=true";
    }

    /** It ends in no other way, and what it had is in a folder that goes. */
    @Override
    public void close() {
        process.destroyForcibly();
    }
}
