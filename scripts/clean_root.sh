# Sourced: a Debian of its own in a folder, of the release of this machine.

# rm_make_root FOLDER: needs root and a Debian mirror, that of this machine or RM_MIRROR.
rm_make_root() {
    RM_PACKAGES="debootstrap" rm_install_packages
    local mirror=${RM_MIRROR:-$(cat /etc/apt/sources.list /etc/apt/sources.list.d/* 2>/dev/null | grep -E '^(deb|URIs:)' | grep -oE 'https?://[^ ]+/debian/?( |$)' | head -1 || true)}
    debootstrap --variant=minbase "$(. /etc/os-release && echo "$VERSION_CODENAME")" "$1" "${mirror:-http://deb.debian.org/debian}" >"$1.log" 2>&1 ||
        { tail -20 "$1.log" >&2; return 1; }
    rm -f "$1.log"
    # The way out of this machine, where it has one of its own.
    apt-config dump | grep -E '^Acquire::https?::Proxy' >"$1/etc/apt/apt.conf.d/90proxy" || true
}

# rm_inside FOLDER COMMAND...
rm_inside() {
    local root=$1
    shift
    chroot "$root" /usr/bin/env -i PATH=/usr/sbin:/usr/bin:/sbin:/bin LANG=C.UTF-8 HOME=/root DEBIAN_FRONTEND=noninteractive "$@"
}
