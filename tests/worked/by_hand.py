"""The worked cases of this folder, calculated one by one from EN 1993-1-1 with plain numbers: nothing here comes from the engine.

`python -m tests.worked.by_hand` writes steel.json again. Dimensions in m, forces in N, strengths in N/m². The section's own
properties are inputs: they have tests of their own against published tables.
"""

import json
from itertools import product
from math import pi, sqrt
from pathlib import Path

HERE = Path(__file__).parent
E = 210e9
#: 3.2.6, not rounded to 81 000 N/mm²
G = E / 2.6
CURVE = {"a": 0.21, "b": 0.34, "c": 0.49}
#: name, shape, dimensions and properties of the catalogue, buckling curves y, z, LT (tables 6.2 and 6.5, S235 to S420)
SECTIONS = json.loads((HERE / "sections.json").read_text())
STRENGTH = {"S235": 235e6, "S355": 355e6}


def classes(s, fy, N):
    """Table 5.2 under compression N together with the moment that exhausts the section."""
    eps = sqrt(235e6 / fy)
    out = {"epsilon": eps}
    if s["shape"] == "circular":
        ratio, limits = s["h"] / s["tw"], [50 * eps**2, 70 * eps**2, 90 * eps**2]
    elif s["shape"] == "I":
        ratio, limits = (s["b"] - s["tw"] - 2 * s["r"]) / 2 / s["tf"], [9 * eps, 10 * eps, 14 * eps]
    else:
        ratio, limits = (max(s["h"], s["b"]) - 3 * s["tw"]) / s["tw"], [33 * eps, 38 * eps, 42 * eps]
    out |= {"flange": ratio, **{f"flange_{k}": v for k, v in enumerate(limits, 1)}}
    cls = 1 + sum(ratio > limit for limit in limits)
    if s["shape"] == "I":
        c = s["h"] - 2 * s["tf"] - 2 * s["r"]
        # plastic: the neutral axis lies N/(2 t fy) off the middle; elastic: ψ from N/A ± the rest
        alpha = min(1.0, 0.5 + N / (2 * c * s["tw"] * fy))
        psi = max(-1.0, min(1.0, 2 * N / (s["A"] * fy) - 1))
        if alpha > 0.5:
            web = [396 * eps / (13 * alpha - 1), 456 * eps / (13 * alpha - 1)]
        else:
            web = [36 * eps / alpha, 41.5 * eps / alpha]
        web.append(42 * eps / (0.67 + 0.33 * psi))
        out |= {"alpha_web": alpha, "psi_web": psi, "web": c / s["tw"]}
        out |= {f"web_{k}": v for k, v in enumerate(web, 1)}
        cls = max(cls, 1 + sum(c / s["tw"] > limit for limit in web))
    return out | {"cls": cls}


def slender(s, fy):
    """Slenderness beside the limit of class 3 in compression alone, the worst of all walls."""
    eps = sqrt(235e6 / fy)
    if s["shape"] == "circular":
        return s["h"] / s["tw"] / (90 * eps**2)
    if s["shape"] == "I":
        flange = (s["b"] - s["tw"] - 2 * s["r"]) / 2 / s["tf"] / (14 * eps)
        return max(flange, (s["h"] - 2 * s["tf"] - 2 * s["r"]) / s["tw"] / (42 * eps))
    return (max(s["h"], s["b"]) - 3 * s["tw"]) / s["tw"] / (42 * eps)


def whole(ratio, k, eps, psi=1.0):
    """ρ of an internal part of EN 1993-1-5 (4.2)."""
    lam = ratio / (28.4 * eps * sqrt(k))
    return 1.0 if lam <= 0.5 + sqrt(0.085 - 0.055 * psi) else (lam - 0.055 * (3 + psi)) / lam**2


def effective(s, fy):
    """EN 1993-1-5 4.4: (A_eff in compression alone, W_eff about y, about z in bending alone). The walls that are lost are summed in
    strips. Outstands of these sections are whole."""
    eps = sqrt(235e6 / fy)
    if s["shape"] == "I":
        flat, t = s["h"] - 2 * s["tf"] - 2 * s["r"], s["tw"]
        assert (s["b"] - s["tw"] - 2 * s["r"]) / 2 / s["tf"] / (28.4 * eps * sqrt(0.43)) < 0.748
        return (
            s["A"] - (1 - whole(flat / t, 4, eps)) * flat * t,
            strips(s["A"], s["Iy"], s["h"], 0.0, 0.0, flat, t, 1, eps),
            s["Wel_z"],
        )
    t = s["tw"]
    deep, wide = s["h"] - 3 * t, s["b"] - 3 * t
    lost = [(1 - whole(c / t, 4, eps)) * c * t for c in (deep, wide)]
    arms = (s["h"] - t) / 2, (s["b"] - t) / 2
    return (
        s["A"] - 2 * sum(lost),
        strips(s["A"], s["Iy"], s["h"], lost[1], arms[0], deep, t, 2, eps),
        strips(s["A"], s["Iz"], s["b"], lost[0], arms[1], wide, t, 2, eps),
    )


def strips(A, second, h, lost, arm, flat, t, webs, eps, count=20000):
    """W_eff at the compressed side: from the gross section, the flange's loss at its arm, and what the webs lose, strip by strip."""
    axis = -lost * arm / (A - lost)
    top, low = flat / 2 - axis, -flat / 2 - axis
    psi = low / top
    k = 5.98 * (1 - psi) ** 2 if psi <= -1 else 7.81 - 6.29 * psi + 9.78 * psi**2
    rho = whole(flat / t, k, eps, psi)
    area, first, inertia = A - lost, -lost * arm, second - lost * (arm**2 + t**2 / 12 * bool(lost))
    step = top / count
    for i in range(count):
        z = (i + 0.5) * step
        # from the neutral axis 60 % of what is effective, from the flange 40 %
        if 0.6 * rho * top < z < top - 0.4 * rho * top:
            dA, at = webs * t * step, z + axis
            area, first, inertia = area - dA, first - dA * at, inertia - dA * at**2
    shift = first / area
    return (inertia - area * shift**2) / (h / 2 - shift)


def shear_area(s):
    """6.2.6(3), η = 1."""
    A, h, b, tw, tf, r = (s[k] for k in ("A", "h", "b", "tw", "tf", "r"))
    if s["shape"] == "I":
        return max(A - 2 * b * tf + (tw + 2 * r) * tf, (h - 2 * tf) * tw)
    return 2 * A / pi if s["shape"] == "circular" else A * h / (b + h)


def shear_area_y(s):
    """6.2.6(3): of I sections A − h_w t_w."""
    A, h, b, tw, tf = (s[k] for k in ("A", "h", "b", "tw", "tf"))
    if s["shape"] == "I":
        return A - (h - 2 * tf) * tw
    return 2 * A / pi if s["shape"] == "circular" else A * b / (b + h)


def cross_section(s, fy, N, Vz, My, Mz, Vy=0.0, gamma=1.0):
    """6.2.3 to 6.2.9."""
    out = classes(s, fy, -min(N, 0.0))
    # more pressed than bent: the class of compression alone, its stress N/A in ε (5.5.2(9))
    pressed = -min(N, 0.0) / (s["A"] * fy / gamma)
    bent = (abs(My) / s["Wel_y"] + abs(Mz) / s["Wel_z"]) / (fy / gamma)
    if pressed and pressed >= bent and slender(s, fy) * sqrt(pressed) > 1:
        out["cls"] = 4
    if out["cls"] == 4 and s["shape"] == "circular":
        # shells: EN 1993-1-6
        return {"cls": 4}
    plastic = out["cls"] <= 2
    A_N, W_4y, W_4z = (s["A"], s["Wel_y"], s["Wel_z"]) if out["cls"] < 4 else effective(s, fy)
    A_N = s["A"] if N > 0 else A_N
    fy = fy / gamma
    A, h, b, tw, tf = (s[k] for k in ("A", "h", "b", "tw", "tf"))
    Av = shear_area(s)
    n, V_Rd = abs(N) / (A_N * fy), Av * fy / sqrt(3)
    u_V, u_Vy = abs(Vz) / V_Rd, abs(Vy) / (shear_area_y(s) * fy / sqrt(3))
    # a circular section has one shear, whichever way it goes
    sheared, sheared_y = (sqrt(u_V**2 + u_Vy**2),) * 2 if s["shape"] == "circular" else (u_V, u_Vy)
    rho = (2 * sheared - 1) ** 2 if sheared > 0.5 else 0.0
    rho_y = (2 * sheared_y - 1) ** 2 if sheared_y > 0.5 else 0.0
    Wy, Wz = (s["Wpl_y"], s["Wpl_z"]) if plastic else (W_4y, W_4z)
    M_y, M_z = Wy * fy, Wz * fy
    if s["shape"] == "I":
        web = h - 2 * tf
        M_y -= rho * fy * (tw * web**2 / 4 if plastic else tw * web**3 / (6 * h))
    elif s["shape"] == "circular":
        M_y *= 1 - rho
    else:
        deep = Av / (2 * tw)
        M_y -= rho * fy * 2 * tw * (deep**2 / 4 if plastic else deep**3 / (6 * h))
    if s["shape"] in ("I", "circular"):
        # V_y runs in the flanges, which bear all of M_z
        M_z *= 1 - rho_y
    else:
        wide = shear_area_y(s) / (2 * tw)
        M_z -= rho_y * fy * 2 * tw * (wide**2 / 4 if plastic else wide**3 / (6 * b))
    out |= {"u_Vy": u_Vy, "rho_y": rho_y}
    out |= {"N_Rd": A_N * fy, "n": n, "Vz_Rd": V_Rd, "u_Vz": u_V, "rho_z": rho, "My_V": M_y, "Mz_V": M_z}
    if not plastic:
        return out | {"u_NM": n + abs(My) / M_y + abs(Mz) / M_z}
    if s["shape"] == "I":
        a = min((A - 2 * b * tf) / A, 0.5)
        hw = (h - 2 * tf) * tw * fy
        M_Ny = M_y if n <= 0.25 and abs(N) <= 0.5 * hw else min(M_y, M_y * (1 - n) / (1 - 0.5 * a))
        M_Nz = M_z if abs(N) <= hw or n <= a else M_z * (1 - ((n - a) / (1 - a)) ** 2)
        powers = 2.0, max(1.0, 5 * n)
    elif s["shape"] == "circular":
        M_Ny = M_y * (1 - n**1.7)
        M_Nz = M_Ny
        powers = 2.0, 2.0
    else:
        M_Ny = min(M_y, M_y * (1 - n) / (1 - 0.5 * min((A - 2 * b * tw) / A, 0.5)))
        M_Nz = min(M_z, M_z * (1 - n) / (1 - 0.5 * min((A - 2 * h * tw) / A, 0.5)))
        powers = (min(6.0, 1.66 / (1 - 1.13 * n**2)),) * 2
    y, z = abs(My) / M_Ny, abs(Mz) / M_Nz
    u = max(y, z, n)
    if y and z:
        u = max(u, y ** powers[0] + z ** powers[1])
    return out | {"My_N": M_Ny, "Mz_N": M_Nz, "u_NM": u}


def chi(imperfection, slenderness):
    """(6.49)."""
    if slenderness <= 0.2:
        return 1.0
    phi = 0.5 * (1 + imperfection * (slenderness - 0.2) + slenderness**2)
    return min(1.0, 1 / (phi + sqrt(phi**2 - slenderness**2)))


def annex_a(s, fy, gamma, N, My, Mz, lam, chis, N_crs, M_cr0, C1, a, b, plastic, M_b, A, Wy, Wz):
    """Tables A.1 and A.2 with C_my,0 = a + b N/N_cr,y and C_mz,0 of a uniform moment. lam, chis, N_crs: of y, z, torsion."""
    e_y, e_z, e_T = (N / N_cr if N_cr else 0.0 for N_cr in N_crs)
    mu_y, mu_z = (1 - e_y) / (1 - chis[0] * e_y), (1 - e_z) / (1 - chis[1] * e_z)
    w_y, w_z = min(1.5, s["Wpl_y"] / s["Wel_y"]), min(1.5, s["Wpl_z"] / s["Wel_z"])
    n_pl = N / (A * fy / gamma)
    l_max = max(lam)
    a_LT = max(0.0, 1 - s["It"] / s["Iy"])
    l_0 = sqrt(Wy * fy / M_cr0) if M_cr0 else 0.0
    C_my = a + b * e_y
    C_mz = 1 + 0.36 * 0.67 * e_z
    C_mLT = 1.0
    if l_0 > 0.2 * sqrt(C1) * ((1 - e_z) * (1 - e_T)) ** 0.25:
        # table A.1: W_el,y of classes 1 to 3, W_eff,y of class 4
        root = sqrt(My / N * A / (s["Wel_y"] if s["A"] == A else Wy)) * a_LT
        C_my += (1 - C_my) * root / (1 + root)
        C_mLT = max(1.0, C_my**2 * a_LT / sqrt((1 - e_z) * (1 - e_T)))
    out = {"Cmy_0": a + b * e_y, "Cmy": C_my, "CmLT": C_mLT, "mu_y": mu_y, "mu_z": mu_z, "lambda_0": l_0}
    k_yy, k_yz = C_my * C_mLT * mu_y / (1 - e_y), C_mz * mu_y / (1 - e_z)
    k_zy, k_zz = C_my * C_mLT * mu_z / (1 - e_y), C_mz * mu_z / (1 - e_z)
    m_y, m_z = My / M_b, Mz / (Wz * fy / gamma)
    b_LT = 0.5 * a_LT * l_0**2 * m_y * m_z
    c_LT = 10 * a_LT * l_0**2 / (5 + lam[1] ** 4) * m_y / C_my
    d_LT = 2 * a_LT * l_0 / (0.1 + lam[1] ** 4) * m_y / C_my * m_z / C_mz
    e_LT = 1.7 * a_LT * l_0 / (0.1 + lam[1] ** 4) * m_y / C_my
    C_yy = 1 + (w_y - 1) * ((2 - 1.6 / w_y * C_my**2 * (l_max + l_max**2)) * n_pl - b_LT)
    C_yz = 1 + (w_z - 1) * ((2 - 14 * C_mz**2 * l_max**2 / w_z**5) * n_pl - c_LT)
    C_zy = 1 + (w_y - 1) * ((2 - 14 * C_my**2 * l_max**2 / w_y**5) * n_pl - d_LT)
    C_zz = 1 + (w_z - 1) * (2 - 1.6 / w_z * C_mz**2 * (l_max + l_max**2) - e_LT) * n_pl
    C_yy, C_zz = max(C_yy, 1 / w_y), max(C_zz, s["Wel_z"] / s["Wpl_z"])
    C_yz = max(C_yz, 0.6 * sqrt(w_z / w_y) * s["Wel_z"] / s["Wpl_z"])
    C_zy = max(C_zy, 0.6 * sqrt(w_y / w_z) * s["Wel_y"] / s["Wpl_y"])
    if plastic:
        out |= {"C_yy": C_yy, "C_yz": C_yz, "C_zy": C_zy, "C_zz": C_zz}
        k_yy, k_zz = k_yy / C_yy, k_zz / C_zz
        k_yz, k_zy = k_yz * 0.6 * sqrt(w_z / w_y) / C_yz, k_zy * 0.6 * sqrt(w_y / w_z) / C_zy
    return out | {"kyy": k_yy, "kyz": k_yz, "kzy": k_zy, "kzz": k_zz}


def member(s, fy, N, My, Mz, L, C_my, C_mLT, gamma=1.0, C1=1.0, c=0.0, cm0=None, modified=False):
    """6.3.1 to 6.3.3: length L about both axes and between forks, C_mz = 1, C1, the load at the flange with the share c, N in
    compression; annex B, or annex A with cm0 = (a, b) of C_my,0; χ_LT by f of (6.58) with k_c = 1/√C1 where it is modified."""
    out = classes(s, fy, N)
    A = s["A"]
    Wy, Wz = (s["Wpl_y"], s["Wpl_z"]) if out["cls"] <= 2 else (s["Wel_y"], s["Wel_z"])
    N_y, N_z = pi**2 * E * s["Iy"] / L**2, pi**2 * E * s["Iz"] / L**2
    # the member is more pressed than bent, with its gross area: the class of compression alone
    used = [N / (chi(CURVE[s["curves"][k]], sqrt(A * fy / N_cr)) * A * fy / gamma) for k, N_cr in enumerate((N_y, N_z))]
    if s["shape"] == "I":
        N_T = (G * s["It"] + pi**2 * E * s["Iw"] / L**2) / ((s["Iy"] + s["Iz"]) / A)
        used.append(N / (chi(CURVE[s["curves"][1]], sqrt(A * fy / N_T)) * A * fy / gamma))
    if max(used) >= (My / (Wy * fy) + Mz / (Wz * fy)) * gamma and slender(s, fy) > 1:
        out["cls"] = 4
    if out["cls"] == 4 and s["shape"] == "circular":
        return {"cls": 4}
    if out["cls"] == 4:
        A, Wy, Wz = effective(s, fy)
    plastic = out["cls"] <= 2
    l_y, l_z = sqrt(A * fy / N_y), sqrt(A * fy / N_z)
    chi_y, chi_z = chi(CURVE[s["curves"][0]], l_y), chi(CURVE[s["curves"][1]], l_z)
    out |= {"lambda_y": l_y, "lambda_z": l_z, "chi_y": chi_y}
    chi_LT, out_z, N_T, M_cr0 = 1.0, chi_z, 0.0, 0.0
    flexural = l_z
    if s["shape"] == "I":
        i2 = (s["Iy"] + s["Iz"]) / s["A"]
        N_T = (G * s["It"] + pi**2 * E * s["Iw"] / L**2) / i2
        l_T = sqrt(A * fy / N_T)
        out_z = min(chi_z, chi(CURVE[s["curves"][1]], l_T))
        l_z = max(l_z, l_T)
        M_cr0 = sqrt(N_z * (G * s["It"] + pi**2 * E * s["Iw"] / L**2))
        # M²/C1² + c N_z (h/2) M = M_cr0² solved for M
        half = c * N_z * s["h"] / 2 * C1**2 / 2
        M_cr = sqrt(half**2 + C1**2 * M_cr0**2) - half
        l_LT = sqrt(Wy * fy / M_cr)
        if l_LT > 0.4:
            phi = 0.5 * (1 + CURVE[s["curves"][2]] * (l_LT - 0.4) + 0.75 * l_LT**2)
            f = min(1.0, 1 - 0.5 * (1 - 1 / sqrt(C1)) * (1 - 2 * (l_LT - 0.8) ** 2)) if modified else 1.0
            chi_LT = min(1.0, 1 / l_LT**2, 1 / (phi + sqrt(phi**2 - 0.75 * l_LT**2)) / f)
        out |= {"Ncr_T": N_T, "Mcr": M_cr, "lambda_LT": l_LT}
    out |= {"chi_z": out_z, "chi_LT": chi_LT}
    n_y, n_z = N / (chi_y * A * fy / gamma), N / (out_z * A * fy / gamma)
    M_b = chi_LT * Wy * fy / gamma
    m_y, m_z = My / M_b, Mz / (Wz * fy / gamma)
    if cm0:
        lam = (l_y, flexural, l_z)
        out |= annex_a(
            s, fy, gamma, N, My, Mz, lam, (chi_y, out_z), (N_y, N_z, N_T), M_cr0, C1, *cm0, plastic, M_b, A, Wy, Wz
        )
        kyy, kyz, kzy, kzz = (out[k] for k in ("kyy", "kyz", "kzy", "kzz"))
        return out | {"u_661": n_y + kyy * m_y + kyz * m_z, "u_662": n_z + kzy * m_y + kzz * m_z}
    if plastic:
        kyy = C_my * min(1 + (l_y - 0.2) * n_y, 1 + 0.8 * n_y)
        if s["shape"] == "I":
            kzz = min(1 + (2 * l_z - 0.6) * n_z, 1 + 1.4 * n_z)
            rest = C_mLT - 0.25
            kzy = max(1 - 0.1 * l_z * n_z / rest, 1 - 0.1 * n_z / rest)
            if l_z < 0.4:
                kzy = min(0.6 + l_z, 1 - 0.1 * l_z * n_z / rest)
        else:
            kzz = min(1 + (l_z - 0.2) * n_z, 1 + 0.8 * n_z)
            kzy = 0.6 * kyy
        kyz = 0.6 * kzz
    else:
        kyy = C_my * min(1 + 0.6 * l_y * n_y, 1 + 0.6 * n_y)
        kzz = kyz = min(1 + 0.6 * l_z * n_z, 1 + 0.6 * n_z)
        kzy = 0.8 * kyy
        if s["shape"] == "I":
            kzy = max(1 - 0.05 * l_z * n_z / (C_mLT - 0.25), 1 - 0.05 * n_z / (C_mLT - 0.25))
    out |= {"kyy": kyy, "kyz": kyz, "kzy": kzy, "kzz": kzz}
    return out | {"u_661": n_y + kyy * m_y + kyz * m_z, "u_662": n_z + kzy * m_y + kzz * m_z}


def cases():
    """Every shape and class with little and much axial force, shear, bending about one axis and both, short and long members."""
    found = []
    for s, (grade, fy) in product(SECTIONS, STRENGTH.items()):
        full = s["A"] * fy
        for share, shear, y, z in product((0.4, -0.1, -0.6), (0.0, 0.8), (0.0, 0.3), (0.0, 0.2)):
            load = {
                "N": round(share * full, 1),
                "Vz": round(shear * shear_area(s) * fy / sqrt(3), 1),
                "My": round(y * s["Wpl_y"] * fy, 1),
                "Mz": round(z * s["Wpl_z"] * fy, 1),
            }
            inputs = {"section": s["name"], "grade": grade, **load}
            found.append({"clause": "6.2", "given": inputs, "values": cross_section(s, fy, **load)})
        for share, shear, z in product((0.1, -0.3), (0.4, 0.85), (0.0, 0.2)):
            load = {
                "N": round(share * full, 1),
                "Vz": 0.0,
                "My": round(0.3 * s["Wpl_y"] * fy, 1),
                "Mz": round(z * s["Wpl_z"] * fy, 1),
                "Vy": round(shear * shear_area_y(s) * fy / sqrt(3) / 1.05, 1),
                "gamma": 1.05,
            }
            inputs = {"section": s["name"], "grade": grade, **load}
            found.append({"clause": "6.2, V_y", "given": inputs, "values": cross_section(s, fy, **load)})
        for share, length, y, z, C_my, C_mLT in product(
            (0.05, 0.2), (1.0, 4.0, 9.0), (0.2,), (0.0, 0.1), (0.9,), (1.0, 0.5)
        ):
            load = {
                "N": round(share * full, 1),
                "My": round(y * s["Wel_y"] * fy, 1),
                "Mz": round(z * s["Wel_z"] * fy, 1),
                "L": length,
                "C_my": C_my,
                "C_mLT": C_mLT,
            }
            inputs = {"section": s["name"], "grade": grade, **load}
            found.append({"clause": "6.3", "given": inputs, "values": member(s, fy, **load)})
        # γ_M1 other than 1, C1 above 1, loads at the flange, f, and annex A
        for share, length, C1, c, cm0, modified in product(
            (0.03, 0.15), (2.0, 6.0), (1.13, 1.9), (0.0, 0.8), ((0.79, -0.12), (1.0, 0.03), None), (True, False)
        ):
            load = {
                "N": round(share * full, 1),
                "My": round(0.25 * s["Wel_y"] * fy, 1),
                "Mz": round(0.06 * s["Wel_z"] * fy, 1),
                "L": length,
                "C_my": 0.8,
                "C_mLT": 0.6,
                "gamma": 1.1,
                "C1": C1,
                "c": c,
                "modified": modified,
                **({"cm0": cm0} if cm0 else {}),
            }
            if share * full * length**2 < 0.9 * pi**2 * E * s["Iz"]:
                inputs = {"section": s["name"], "grade": grade, **load}
                clause = "6.3, annex A" if cm0 else "6.3, annex B"
                found.append({"clause": clause, "given": inputs, "values": member(s, fy, **load)})
    return found


def rounded(value):
    return float(f"{value:.11g}") if isinstance(value, float) else value


if __name__ == "__main__":
    every = [{**c, "values": {key: rounded(value) for key, value in c["values"].items()}} for c in cases()]
    (HERE / "steel.json").write_text(json.dumps(every, ensure_ascii=False, separators=(",", ":")) + "\n")
