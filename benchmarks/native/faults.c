// Loaded in front of the C library, it ends the process, or has the operation fail as on a full disk, at the FAULT_AT-th operation that changes something below
// the folder FAULT_UNDER. The file FAULT_FLAG is made when that happens.
//   cc -shared -fPIC -o faults.so faults.c -ldl
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <stdarg.h>
#include <stdatomic.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/types.h>
#include <unistd.h>

static atomic_long done;

// Whether this operation is the one.
static int is_hit(const char *path) {
    const char *under = getenv("FAULT_UNDER"), *at = getenv("FAULT_AT"), *flag = getenv("FAULT_FLAG");
    if (!under || !at || !path || strncmp(path, under, strlen(under)) != 0) return 0;
    if (atomic_fetch_add(&done, 1) + 1 != atol(at)) return 0;
    int (*real_open)(const char *, int, ...) = dlsym(RTLD_NEXT, "open");
    if (flag) close(real_open(flag, O_CREAT | O_WRONLY, 0644));
    const char *kind = getenv("FAULT_KIND");
    if (kind && strcmp(kind, "kill") == 0) _exit(137);
    return 1;
}

static const char *path_of(int fd, char *buffer, size_t size) {
    char link[64];
    snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
    ssize_t length = readlink(link, buffer, size - 1);
    if (length < 0) return NULL;
    buffer[length] = 0;
    return buffer;
}

#define FAIL do { errno = ENOSPC; return -1; } while (0)
#define ON_PATH(type, name, params, args, path) \
    type name params { type (*real) params = dlsym(RTLD_NEXT, #name); if (is_hit(path)) FAIL; return real args; }
#define ON_FD(type, name, params, args) \
    type name params { char b[4096]; type (*real) params = dlsym(RTLD_NEXT, #name); if (is_hit(path_of(fd, b, sizeof b))) FAIL; return real args; }

ON_PATH(int, rename, (const char *from, const char *to), (from, to), to)
ON_PATH(int, renameat, (int a, const char *from, int b, const char *to), (a, from, b, to), to)
ON_PATH(int, unlink, (const char *path), (path), path)
ON_PATH(int, unlinkat, (int at, const char *path, int flags), (at, path, flags), path)
ON_PATH(int, rmdir, (const char *path), (path), path)
ON_PATH(int, mkdir, (const char *path, mode_t mode), (path, mode), path)
ON_PATH(int, link, (const char *from, const char *to), (from, to), to)
ON_FD(ssize_t, write, (int fd, const void *bytes, size_t count), (fd, bytes, count))
ON_FD(ssize_t, pwrite64, (int fd, const void *bytes, size_t count, off64_t at), (fd, bytes, count, at))
ON_FD(int, fsync, (int fd), (fd))
ON_FD(int, fdatasync, (int fd), (fd))
ON_FD(int, ftruncate64, (int fd, off64_t size), (fd, size))

#define OPENING(name) \
    int name(const char *path, int flags, ...) { \
        va_list more; va_start(more, flags); mode_t mode = flags & O_CREAT ? va_arg(more, mode_t) : 0; va_end(more); \
        int (*real)(const char *, int, ...) = dlsym(RTLD_NEXT, #name); \
        if ((flags & (O_WRONLY | O_RDWR | O_CREAT)) && is_hit(path)) FAIL; \
        return real(path, flags, mode); \
    }
OPENING(open)
OPENING(open64)
